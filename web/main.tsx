import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter } from 'react-router';
import { outbox } from './app/api/outbox.ts';
import { queryClient } from './app/api/studies.ts';
import { forgetStale } from './app/kept.ts';
import { Pages } from './app/routes.tsx';
import { applyTheme } from './app/theme.ts';
import { Trouble } from './app/trouble.tsx';
import { GlobalStyle } from './ui/tokens.ts';

applyTheme();
forgetStale();
outbox.start();

// Without it, as over plain HTTP from another machine, the pages need the server to open.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  void navigator.serviceWorker
    .register('/service-worker.js', { updateViaCache: 'none' })
    .catch(() => undefined);
}

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <GlobalStyle />
        <ErrorBoundary FallbackComponent={Trouble}>
          <BrowserRouter>
            <Pages />
          </BrowserRouter>
        </ErrorBoundary>
      </QueryClientProvider>
    </StrictMode>,
  );
}
