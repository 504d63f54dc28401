import '@fontsource-variable/hanken-grotesk';
import '@fontsource/jetbrains-mono/400.css';
import '@fontsource/jetbrains-mono/500.css';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { App } from './app.tsx';
import { useProject } from './data/project.ts';
import { queryClient } from './data/query-client.ts';
import { watchExports } from './data/unfinished-exports.ts';
import { placeOf } from './rooms/address.ts';
import './styles.css';

// The project the address names comes while its frame is drawn, which opens it too, and tells what hinders that.
const { project } = placeOf(location.pathname);
if (project)
  useProject
    .getState()
    .open(project)
    .catch(() => undefined);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <BrowserRouter useTransitions={false}>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
watchExports();
