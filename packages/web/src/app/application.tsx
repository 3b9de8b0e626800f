import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router';
import { BookPage } from '../features/book/book-page.tsx';
import { ChangesPage } from '../features/changes/changes-page.tsx';
import { DeskPage } from '../features/desk/desk-page.tsx';
import { FindingsPage } from '../features/findings/findings-page.tsx';
import { MappingPage } from '../features/mapping/mapping-page.tsx';
import { PlanPage } from '../features/plan/plan-page.tsx';
import { ProjectsPage } from '../features/projects/projects-page.tsx';
import { SettingsPage } from '../features/settings/settings-page.tsx';
import { SourcesPage } from '../features/sources/sources-page.tsx';
import { TakeoffPage } from '../features/takeoff/takeoff-page.tsx';
import { loadLater } from '../ui/load-later.tsx';
import { useNumberStyle } from '../ui/number-style.ts';
import { PartBoundary } from '../ui/part-boundary.tsx';
import { ProjectLayout } from './project-layout.tsx';
import { theme } from './theme.ts';

const ModelPage = loadLater('The model', () => import('../features/model/model-page.tsx').then((m) => m.default));
const client = new QueryClient({ defaultOptions: { queries: { staleTime: 5_000, retry: 1 } } });

/** An address of before: what it says goes on. */
function MovedPage({ to }: { readonly to: string }) {
  const { search } = useLocation();
  return <Navigate to={{ pathname: `../${to}`, search }} relative="path" replace />;
}

/** The whole application: theme, data, routes. */
export function Application() {
  const style = useNumberStyle();
  return (
    <ThemeProvider theme={theme} defaultMode="light">
      <CssBaseline />
      <QueryClientProvider client={client}>
        <SnackbarProvider
          maxSnack={3}
          autoHideDuration={8000}
          anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        >
          <BrowserRouter>
            <Routes key={style}>
              <Route
                path="/"
                element={
                  <PartBoundary what="This page">
                    <ProjectsPage />
                  </PartBoundary>
                }
              />
              <Route path="/projects/:projectId" element={<ProjectLayout />}>
                <Route index element={<Navigate to="model" replace />} />
                <Route path="model" element={<ModelPage />} />
                <Route path="takeoff" element={<TakeoffPage />} />
                <Route path="findings" element={<FindingsPage />} />
                <Route path="settings" element={<SettingsPage />} />
                <Route path="plan" element={<PlanPage />} />
                <Route path="mapping" element={<MappingPage />} />
                <Route path="pricing" element={<MovedPage to="mapping" />} />
                <Route path="book" element={<BookPage />} />
                <Route path="changes" element={<ChangesPage />} />
                <Route path="sources" element={<SourcesPage />} />
                <Route path="design-desk" element={<DeskPage />} />
              </Route>
              <Route path="*" element={<Navigate to="/" replace />} />
            </Routes>
          </BrowserRouter>
        </SnackbarProvider>
      </QueryClientProvider>
    </ThemeProvider>
  );
}
