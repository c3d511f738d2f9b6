export {
  address,
  type Address,
  type Answer,
  type ApiPath,
  type BenchName,
  type Body,
  type RecordsPath,
  type Verb,
} from "./address";
export { ApiError, send, sendFile, type Problem, type Schemas } from "./client";
export {
  benchesOf,
  benchPath,
  defineBench,
  useBenches,
  type BenchDef,
  type BenchOut,
  type Later,
} from "./benches";
export { Fetched, fetchLater } from "./components/Fetched";
export { Complaint, KeptLate, Failed, problemOf, Ready, Waiting } from "./components/States";
export { enteredFields, FigureField, type Entered, type EnteredRule } from "./components/Figure";
export { Keypad } from "./components/Keypad";
export { press } from "./press";
export { useSmallForm } from "./smallform";
export { MarginLine } from "./components/MarginLine";
export { Shell, type Place } from "./components/Shell";
export { SignInForm, SignInPage } from "./components/SignIn";
export { byWord, VerdictShape, VerdictWord } from "./components/VerdictWord";
export { dropDraft, readDraft, useDraft, writeDraft } from "./drafts";
export { deviceName, mergeEntries, useOpenSheet, type LocalSheet, type SheetEntry } from "./sheets";
export { httpEvaluator, useEvaluation, type Evaluator, type Shown } from "./evaluator";
export { listKeys, useKeys, type Key } from "./keys";
export { useNarrow } from "./media";
export { shrunk, MOST_BYTES } from "./shrink";
export { AGING_MS, brings } from "./changes";
export { outbox, Outbox, type Parcel, type Refusal } from "./outbox";
export { useGet, useSchema, useSymbols } from "./queries";
export { SessionProvider, useMe, useSession, type Me } from "./session";
export { day, dayTime, instant, localField } from "./time";
