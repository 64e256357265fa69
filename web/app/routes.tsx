import { type ComponentType, lazy } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { lookForNewer } from './newer-program.ts';
import { Shell } from './shell.tsx';
import { Missing } from './trouble.tsx';

/** A page is a file of its own that is fetched when it is first opened. */
const page = (load: () => Promise<ComponentType>) =>
  lazy(async () => {
    try {
      return { default: await load() };
    } catch (error) {
      if (!(await lookForNewer())) throw error;
      // The server has the files of a newer build alone: the address is opened once more, with its pages.
      location.reload();
      return new Promise<never>(() => undefined);
    }
  });

const Studies = page(async () => (await import('../stages/studies/studies.tsx')).Studies);
const Design = page(async () => (await import('../stages/design/design.tsx')).Design);
const Methods = page(async () => (await import('../stages/methods/methods.tsx')).Methods);
const Interface = page(async () => (await import('../stages/interface/interface.tsx')).Interface);
const StudyFrame = page(async () => (await import('./study-frame.tsx')).StudyFrame);
const Plan = page(async () => (await import('../stages/plan/plan.tsx')).Plan);
const RunSheet = page(async () => (await import('../stages/plan/run-sheet.tsx')).RunSheet);
const Bench = page(async () => (await import('../stages/bench/bench.tsx')).Bench);
const Recordings = page(async () => (await import('../stages/bench/recordings/recordings.tsx')).Recordings);
const Traces = page(async () => (await import('../stages/bench/traces/traces.tsx')).Traces);
const Screen = page(async () => (await import('../stages/screen/screen.tsx')).Screen);
const Rank = page(async () => (await import('../stages/rank/rank.tsx')).Rank);
const Report = page(async () => (await import('../stages/report/report.tsx')).Report);

/** Every address, and what is shown there. */
export const Pages = () => (
  <Routes>
    <Route element={<Shell />}>
      <Route index element={<Studies />} />
      <Route path="design" element={<Design />} />
      <Route path="methods" element={<Methods />} />
      <Route path="interface" element={<Interface />} />
      <Route path="study/:studyId" element={<StudyFrame />}>
        <Route index element={<Navigate to="plan" replace />} />
        <Route path="plan" element={<Plan />} />
        <Route path="sheet" element={<RunSheet />} />
        <Route path="bench" element={<Bench />} />
        <Route path="bench/recordings" element={<Recordings />} />
        <Route path="bench/traces" element={<Traces />} />
        <Route path="screen" element={<Screen />} />
        <Route path="rank" element={<Rank />} />
        <Route path="report" element={<Report />} />
      </Route>
      <Route path="*" element={<Missing />} />
    </Route>
  </Routes>
);
