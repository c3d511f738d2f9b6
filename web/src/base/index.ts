export {
  address,
  type Address,
  type Answer,
  type ApiPath,
  type BenchName,
  type Body,
  type EntryBody,
  type RecordsPath,
  type Verb,
} from "./address";
export { ApiError, send, sendFile, type Problem, type Schemas } from "./client";
export { becausePath, benchesOf, benchPath, useBenches, type BenchOut, type Later } from "./benches";
export { Fetched, fetchLater } from "./components/Fetched";
export { Complaint, KeptLate, Failed, problemOf, Ready, together, Waiting } from "./components/States";
export { enteredFields, FigureField, type EnteredRule } from "./components/Figure";
export { FigureInput, type Entered, type FigureInputProps } from "./components/FigureInput";
export { Act, SENDING } from "./components/Act";
export { CsvFiles } from "./components/CsvFiles";
export { Keypad } from "./components/Keypad";
export { RadioGroup } from "./components/RadioGroup";
export { press } from "./press";
export { useSmallForm } from "./smallform";
export { MarginLine } from "./components/MarginLine";
export { Settled } from "./components/Settled";
export { Shell, type Place } from "./components/Shell";
export { Spot } from "./components/Spot";
export { SignInForm, SignInPage } from "./components/SignIn";
export { byWord, VerdictShape, VerdictWord } from "./components/VerdictWord";
export { handOf, holdInHand, useHand, type Hand } from "./hand";
export { dropDraft, openDrafts, readDraft, useDraft, writeDraft } from "./drafts";
export { deviceName, mergeEntries, useOpenSheet, type LocalSheet, type SheetEntry } from "./sheets";
export {
  httpEvaluator,
  useEvaluation,
  type Asked,
  type Evaluated,
  type Evaluator,
  type Shown,
  type ShownOf,
} from "./evaluator";
export { counted, isSaid, keptFields, newest, ownFields, type KeptAs } from "./standing";
export { listKeys, PAGE_KEYS, useKeys, useQuiet, type Key } from "./keys";
export { useGoing } from "./going";
export { useKept } from "./kept";
export { useNarrow } from "./media";
export { shrunk, MOST_BYTES } from "./shrink";
export { AGING_MS, brings, renew, whereOf, type Where } from "./changes";
export { outbox, Outbox, type Parcel, type Refusal } from "./outbox";
export { useGet, useSchema, useSymbols } from "./queries";
export { SessionProvider, useMe, useSession, type Me } from "./session";
export { setTablet } from "./tablet";
export { day, dayTime, instant, localField, monthName } from "./time";
export { default as small } from "./small.module.scss";
