import type { components } from "./schema.gen";

type S = components["schemas"];
/** As the client gives it: pairs come as plain lists. */
type Given<T> = T extends [number, ...number[]]
  ? number[]
  : T extends (infer U)[]
    ? Given<U>[]
    : T extends object
      ? { [K in keyof T]: Given<T[K]> }
      : T;
export type Session = S["SessionOut"];
export type Preferences = S["PreferencesOut"];
export type Steel = Given<S["SteelOut"]>;
export type Source = S["SourceOut"];
export type ShopNumber = S["FigureOut"];
export type PairSheet = Given<S["PairingOut"]>;
export type PairCell = S["PairCellOut"];
export type Suggestion = Given<S["SuggestionOut"]>;
export type Use = NonNullable<S["MatrixIn"]["use"]>;
export type Etchant = NonNullable<S["MatrixIn"]["etchant"]>;
export type Verdict = S["PairCellOut"]["verdict"];
export type ScaleCounted = Given<S["ScaleCounted"]>;
export type LaidAside = Given<S["LaidAside"]>;
export type FireSheet = Given<S["FireSheet"]>;
export type Fired = Given<S["FiredStep"]>;
export type Fire = S["Fire"];
export type HeatsOf = S["HeatsOf"];
export type Hardening = S["Hardening"];
export type HardeningSheet = Given<S["HardeningSheet"]>;
export type PlanStep = Given<S["PlanStep"]>;
export type PlanBar = S["PlanBar"];
export type Round = S["Round"];
export type Bend = Given<S["Move"]>;
export type StraightPlace = S["StraightPlace"];
export type TemperedReading = S["Tempered"];
export type RackSheet = S["RackOut"];
export type RackItem = S["ItemOut"];
export type Fitting = S["FittingOut"];
export type RackMovement = S["MovementOut"];
export type TypedLine = S["TypedOut"];
export type StockSheet = Given<S["StockTold"]>;
export type StockPlan = S["StockPlan"];
export type PileWanted = Given<S["PileTold"]>;
export type Fall = S["Fall"];
export type CutPlan = Given<S["CutPlan"]>;
export type CutBar = Given<S["BarTold"]>;
export type LaidBar = S["LaidIn"];
export type TimeAndMoney = Given<S["TimeAndMoney"]>;
export type RiskCurve = Given<S["RiskCurve"]>;
export type WayOut = S["WayOutOut"];
export type KilnProgram = S["Program"];
export type KilnSegment = S["Segment"];
export type KilnCheck = S["ProgramCheckOut"];
export type KilnRun = S["KilnRunOut"];
export type Atmosphere = NonNullable<S["Fire"]["gas"]>;
export type Catalogue = S["CatalogueOut"];
export type DesignLine = S["DesignLine"];
export type DesignFull = S["DesignOut"];
export type Revision = S["RevisionOut"];
export type Ledger = Given<S["LedgerOut"]>;
export type Row = Given<S["Row"]>;
export type Summary = Given<S["Summary"]>;
export type Station = Given<S["CoreStation"]>;
export type Finding = S["Finding"];
export type Against = S["Against"];
export type MadeSo = S["MadeSoOut"];
export type ProblemItem = S["ProblemOut"];
export type ProblemBody = S["ProblemBody"];
export type Portrait = S["PortraitOut"];
export type Document = S["Document"];
export type Blade = S["Blade"];
export type Step = S["BarRecipe"]["steps"] extends (infer T)[] | undefined ? T : never;
export type Start = S["BarRecipe"]["start"];
export type Stack = S["Stack"];
export type Side = "right" | "left";
export type Quality = "preview" | "screen" | "full" | "portrait";
export type Bar = S["BarRecipe"];
export type Assembly = S["Assembly"];
export type Canister = S["Canister"];
export type Insert = S["Insert"];
export type Child = S["Child"];
export type SumItem = S["SumOut"];
export type Parameter = S["Parameter"];
export type Job = S["JobOut"];
export type JobFile = S["JobFileOut"];
export type Variation = S["Variation"];
export type Role = S["ShopOut"]["role"];
export type ShopSeat = S["ShopOut"];
export type People = S["PeopleOut"];
export type LayersAt = S["LayersOut"];
/** Ids: of a bar of a recipe, of one of its steps. */
export type BarId = string;
export type StepId = string;
export type CoreLine = Given<S["CoreSheet"]>;
export type BladeSection = Given<S["Section"]>;
export type Measures = Given<S["MeasuresSheet"]>;
export type Inferred = Given<S["InferenceSheet"]>;
export type Aim = S["Aim"];
export type Readings = S["Readings"];
export type Reading = S["Reading"];
export type Grind = S["Blade"]["grind"]["right"];
/** What the tolerance study says; it comes as the last line of a stream, so the schema does not know it. */
export type Study = {
  x: number[];
  right: Quantiles;
  left: Quantiles;
  blades: number;
  first: number;
  first_error: number;
  reasons: Record<"low" | "high" | "apart" | "none", number>;
  matters: Record<"apart" | "lowest" | "highest", [string, number][]>;
};
export type Quantiles = { low: number[]; middle: number[]; high: number[] };
export type FaceToMark = Given<S["FaceToMarkOut"]>;
/** What a photo tells; the last line of a stream. */
export type PhotoFit = {
  numbers: Fitted[];
  like_planned: number;
  like: number;
};
export type Fitted = {
  fitted: { number: S["PhotoNumber"]; change: number; low: number; high: number; told: boolean; differs: boolean };
  made: number;
  made_low: number;
  made_high: number;
  words: string;
};
export type Build = Given<S["BuildOut"]>;
export type BuildTold = Given<S["BuildTold"]>;
export type Operation = Given<S["OperationTold"]>;
export type PlannedOperation = S["Operation"];
export type Target = S["TargetTold"];
export type Check = S["Check"];
export type BuildRecord = S["RecordOut"];
export type Factor = Given<S["FactorTold"]>;
export type Order = S["OrderOut"];
export type FinishPlan = S["FinishPlan"];
export type FinishSheet = Given<S["FinishOut"]>;
export type Mixed = Given<S["MixOut"]>;
export type BathKept = Given<S["BathOut"]>;
export type BathDetail = Given<S["BathDetailOut"]>;
export type EtchBath = S["Bath"];
export type EdgeAdvice = S["Advice"];
export type SeenThing = S["SeenOut"];
export type FaultFound = Given<S["FaultOut"]>["found"];
export type PracticeAttempt = Given<S["AttemptOut"]>;
export type BladeCard = Given<S["CardOut"]>;
/** One thing written down while a design is carried out; see core/build/entry.py. */
export type Entry = S["RecordOut"]["entry"];
