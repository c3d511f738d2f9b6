export { BenchFigure, NamedFigure, useFigure } from "./BenchFigure";
export { Bench } from "./Bench";
export { BenchPage } from "./BenchPage";
export { defineBench, type BenchDef } from "./define";
export { Derived, Note, Photo, PutOnRecord, Reason, RecordEnd, Sending, Verdicts } from "./pieces";
export { standIn } from "./standIn";
export { fieldId, ToolsGiven, useBench, useTools, type Given, type Own, type Tools } from "./tools";
export { TakenUp } from "./TakenUp";
export { hasFigures, opening, useOneEntry } from "./useOneEntry";
