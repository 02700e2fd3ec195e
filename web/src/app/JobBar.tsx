import { Button, Notice } from "../ui";
import type { Working } from "./useJob";

/** How far a job is, with a way to stop it; how it ended, when that was not well. `what`: of what, in a word or two. */
export function JobBar({ working, what }: { working: Working; what: string }) {
  const { job, busy, problem, stop, stopping } = working;
  return (
    <div className="flex min-w-0 flex-1 flex-wrap items-center gap-3" aria-live="polite">
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      {busy ? (
        <>
          <Button onClick={stop} disabled={stopping}>
            {stopping ? "Stopping…" : "Stop"}
          </Button>
          <progress
            className="min-w-32 flex-1"
            max={1}
            value={job?.state === "running" ? job.progress : 0}
            aria-label={`Progress of the ${what}`}
          />
          <span className="font-mono text-sm">
            {!job || job.state === "waiting"
              ? "waits its turn"
              : job.wanted > 1
                ? `${job.files.length} of ${job.wanted}`
                : `${Math.round(100 * job.progress)} %`}
          </span>
        </>
      ) : null}
      {!busy && job?.state === "stopped" ? <span className="text-quiet">Stopped.</span> : null}
      {!busy && job?.state === "failed" ? <Notice tone="stop">{job.problem}</Notice> : null}
    </div>
  );
}
