import { Navigate, createBrowserRouter } from 'react-router';
import { Shell } from './shell.tsx';
import { Trouble } from './trouble.tsx';

/** Every stage is a file of its own that is fetched when it is first opened. */
export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Trouble />,
    hydrateFallbackElement: <p>Opening…</p>,
    children: [
      {
        errorElement: <Trouble />,
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await import('../stages/studies/studies.tsx')).Studies }),
          },
          {
            path: 'design',
            lazy: async () => ({ Component: (await import('../stages/design/design.tsx')).Design }),
          },
          {
            path: 'methods',
            lazy: async () => ({ Component: (await import('../stages/methods/methods.tsx')).Methods }),
          },
          {
            path: 'interface',
            lazy: async () => ({ Component: (await import('../stages/interface/interface.tsx')).Interface }),
          },
          {
            path: 'study/:studyId',
            lazy: async () => ({ Component: (await import('./study-frame.tsx')).StudyFrame }),
            children: [
              { index: true, element: <Navigate to="plan" replace /> },
              {
                path: 'plan',
                lazy: async () => ({ Component: (await import('../stages/plan/plan.tsx')).Plan }),
              },
              {
                path: 'sheet',
                lazy: async () => ({ Component: (await import('../stages/plan/run-sheet.tsx')).RunSheet }),
              },
              {
                path: 'bench',
                lazy: async () => ({ Component: (await import('../stages/bench/bench.tsx')).Bench }),
              },
              {
                path: 'bench/recordings',
                lazy: async () => ({
                  Component: (await import('../stages/bench/recordings/recordings.tsx')).Recordings,
                }),
              },
              {
                path: 'bench/traces',
                lazy: async () => ({
                  Component: (await import('../stages/bench/traces/traces.tsx')).Traces,
                }),
              },
              {
                path: 'screen',
                lazy: async () => ({ Component: (await import('../stages/screen/screen.tsx')).Screen }),
              },
              {
                path: 'rank',
                lazy: async () => ({ Component: (await import('../stages/rank/rank.tsx')).Rank }),
              },
              {
                path: 'report',
                lazy: async () => ({ Component: (await import('../stages/report/report.tsx')).Report }),
              },
            ],
          },
          { path: '*', element: <Trouble missing /> },
        ],
      },
    ],
  },
]);
