"""The kiln: programs kept and checked, runs driven and recorded, the small instruments."""

import csv
import io
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router

from varistrat.api.auth import asker, helper, smith
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.kiln import (
    EventOut,
    KeptProgramOut,
    KilnRunLineOut,
    KilnRunOut,
    ProgramAgainIn,
    ProgramCheckOut,
    ProgramCsvIn,
    ProgramIn,
    SpeedIn,
    StartIn,
    TesterIn,
    TesterOut,
)
from varistrat.api.shop import shop_of
from varistrat.core.errors import InputError
from varistrat.core.instruments.simulated import HardnessTester, Thermocouple, file_says
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program, checks, planned, read_program, write_program
from varistrat.core.laws.temper import together
from varistrat.designs import selectors
from varistrat.designs.services import predict
from varistrat.kiln import services
from varistrat.kiln.models import KilnProgram, KilnRun

router = Router(tags=["kiln"], auth=helper)
CSV: dict[str, Any] = {"responses": {200: {"content": {"text/csv": {}}}}}


def _kept(p: KilnProgram) -> KeptProgramOut:
    return KeptProgramOut(id=p.pk, mark=services.mark_of_program(p), program=Program(name=p.name, segments=p.segments))


@router.get("/programs", response={200: list[KeptProgramOut], **PROBLEMS})
def programs(request: HttpRequest) -> list[KeptProgramOut]:
    return [_kept(p) for p in services.programs_of(asker(request).shop)]


@router.post("/programs", response={200: KeptProgramOut, **PROBLEMS}, auth=smith)
def keep(request: HttpRequest, asked: Program) -> KeptProgramOut:
    return _kept(services.keep_program(actor=asker(request), program=asked))


@router.put("/programs/{program_id}", response={200: KeptProgramOut, **PROBLEMS}, auth=smith)
def rewrite(request: HttpRequest, program_id: int, asked: ProgramAgainIn) -> KeptProgramOut:
    program = Program(name=asked.name, segments=asked.segments)
    return _kept(services.keep_program(actor=asker(request), program=program, program_id=program_id, base=asked.base))


@router.delete("/programs/{program_id}", response={200: list[KeptProgramOut], **PROBLEMS}, auth=smith)
def forget(request: HttpRequest, program_id: int) -> list[KeptProgramOut]:
    services.forget_program(actor=asker(request), program_id=program_id)
    return programs(request)


@router.post("/check", response={200: ProgramCheckOut, **PROBLEMS})
def check(request: HttpRequest, asked: ProgramIn) -> ProgramCheckOut:
    """What is wrong with a program for this kiln and these steels, and how long it takes."""
    corners = planned(asked.program, shop_of(request).numbers)
    found = checks(asked.program, asked.steels, shop_of(request))
    return ProgramCheckOut(findings=found, corners=[list(c) for c in corners], hours=corners[-1][0] / 60)


@router.post("/program.csv", response={200: None, **PROBLEMS}, openapi_extra=CSV)
def program_csv(request: HttpRequest, asked: Program) -> HttpResponse:
    return _file(write_program(asked), "program.csv")


@router.post("/program-from-csv", response={200: Program, **PROBLEMS})
def from_csv(request: HttpRequest, asked: ProgramCsvIn) -> Program:
    return read_program(asked.text, asked.name)


def _file(text: str, name: str) -> HttpResponse:
    response = HttpResponse(text, content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@router.get("/runs", response={200: list[KilnRunLineOut], **PROBLEMS})
def runs(request: HttpRequest, design: int) -> list[KilnRunLineOut]:
    """Of one design, newest first."""
    found = selectors.design_of(asker(request).shop, design)
    return [_line(services.look(run=r)) for r in KilnRun.objects.filter(shop=asker(request).shop, design=found)]


@router.post("/runs", response={200: KilnRunOut, **PROBLEMS}, auth=smith)
def start(request: HttpRequest, asked: StartIn) -> KilnRunOut:
    """Refused when it would melt what is in the kiln."""
    design = selectors.design_of(asker(request).shop, asked.design)
    w = predict.work_out(asked.document).hardening
    load = Load.of(w.blade.mass, w.blade.spine, w.blade.width, w.blade.length)
    run = services.start_run(
        actor=asker(request), design=design, program=asked.program, steels=[s.key for s in w.materials], load=load, speed=asked.speed
    )
    return _run(run, 0)


@router.get("/runs/{run_id}", response={200: KilnRunOut, **PROBLEMS})
def read(request: HttpRequest, run_id: int, after: int = 0) -> KilnRunOut:
    """The run now, and its record from row `after` on."""
    return _run(services.look(run=services.run_of(asker(request).shop, run_id)), after)


@router.post("/runs/{run_id}/speed", response={200: KilnRunOut, **PROBLEMS}, auth=smith)
def speed(request: HttpRequest, run_id: int, asked: SpeedIn, after: int = 0) -> KilnRunOut:
    return _run(services.set_speed(run=services.run_of(asker(request).shop, run_id), speed=asked.speed), after)


@router.post("/runs/{run_id}/do/{action}", response={200: KilnRunOut, **PROBLEMS}, auth=smith)
def act(request: HttpRequest, run_id: int, action: str, after: int = 0) -> KilnRunOut:
    """hold, resume, skip, stop; of the stand-in: fail, mend (an element), open, shut (the door)."""
    return _run(services.act(run=services.run_of(asker(request).shop, run_id), action=action), after)


@router.post("/runs/{run_id}/stop", response={200: KilnRunOut, **PROBLEMS})
def stop(request: HttpRequest, run_id: int, after: int = 0) -> KilnRunOut:
    """Power off: whoever stands beside a kiln may do that."""
    return _run(services.act(run=services.run_of(asker(request).shop, run_id), action="stop"), after)


@router.get("/runs/{run_id}/record.csv", response={200: None, **PROBLEMS}, openapi_extra=CSV)
def record(request: HttpRequest, run_id: int) -> HttpResponse:
    run = services.look(run=services.run_of(asker(request).shop, run_id))
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(("minutes", "set_point_C", "chamber_C", "blade_C", "power", "segment"))
    rows.writerows(
        [f"{s / 60:.2f}", f"{w:.1f}", f"{c:.1f}", f"{h:.1f}", f"{p:.2f}", int(g) + 1]
        for s, w, c, h, p, g, _ in services.rows_of(run, most=1_000_000)
    )
    return _file(out.getvalue(), "kiln-record.csv")


def _line(run: KilnRun) -> KilnRunLineOut:
    return KilnRunLineOut(
        id=run.pk,
        name=run.name,
        started=run.started,
        state=run.state,  # type: ignore[arg-type]
        minutes=run.controller["seconds"] / 60,
        alarms=sum(e["kind"] == "alarm" for e in run.events),
    )


def _run(run: KilnRun, after: int) -> KilnRunOut:
    now = SimulatedController.taken_up(run.controller)
    r = now.read()
    return KilnRunOut(
        **_line(run).dict(),
        design=run.design_id,
        speed=run.speed,
        program=now.program,
        corners=[list(c) for c in planned(now.program)],
        reading=[r.seconds, r.wanted, r.chamber, r.centre, r.power, r.segment, r.left],
        blade=Thermocouple(seed=run.pk).read(r.centre, r.seconds),
        failed=now.kiln.failed,
        door=now.kiln.door,
        raised=list(now.raised),
        rows=run.lines,
        record=services.rows_of(run, after),
        events=[EventOut(**e) for e in run.events],
    )


@router.post("/tester", response={200: TesterOut, **PROBLEMS})
def tester(request: HttpRequest, asked: TesterIn) -> TesterOut:
    """A simulated hardness tester and file on the edge of this blade."""
    w = predict.work_out(asked.document).hardening
    parts = [p for p in w.parts if p.edge and p.quenched and p.quenched.hrc is not None]
    if not parts and w.unknown:
        raise InputError.at(
            "document",
            f"how hard it comes out is not known here: {w.unknown[0].lower()}{w.unknown[1:]}",
            "ask its maker and put the figures in under Steels",
        )
    if not parts:
        raise InputError.at("document", "nothing at the edge of this blade hardens", "put a high-carbon steel there")
    # all tempers so far count; of a design without any, the one that is asked about
    m = None if asked.stage == "quenched" else together(w.done or [(asked.celsius + w.oven, asked.hours)])
    true = [p.quenched.hrc if m is None else p.quenched.law.at(m) for p in parts if p.quenched and p.quenched.hrc is not None]
    read = HardnessTester(seed=asked.seed, off=-0.4).read(true, [1.0] * len(true))
    return TesterOut(hrc=read, file=file_says(sum(read) / len(read)))
