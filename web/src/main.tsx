import '@fontsource/barlow-semi-condensed/400.css';
import '@fontsource/barlow-semi-condensed/500.css';
import '@fontsource/barlow-semi-condensed/600.css';
import '@fontsource/barlow-condensed/500.css';
import '@fontsource/barlow-condensed/600.css';
import '@mantine/core/styles.css';
import '@mantine/notifications/styles.css';
import './styles.css';
import './drawing.css';
import { MantineProvider } from '@mantine/core';
import { Notifications } from '@mantine/notifications';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Navigate, type RouteObject, RouterProvider, createBrowserRouter } from 'react-router';
import { ErrorPage, Opening } from './ErrorPage.tsx';
import { theme } from './theme.ts';

/** A page whose script comes when it is first gone to. */
const page = (path: string | undefined, load: () => Promise<React.ComponentType>, children?: RouteObject[]): RouteObject => {
  const lazy = async () => ({ Component: await load() });
  return path === undefined ? { index: true, lazy } : { path, lazy, ...(children ? { children } : {}) };
};

const router = createBrowserRouter([
  {
    path: '/',
    ErrorBoundary: ErrorPage,
    HydrateFallback: Opening,
    children: [
      page(undefined, async () => (await import('./jobs/JobsPage.tsx')).JobsPage),
      page('jobs/:id', async () => (await import('./editor/JobPage.tsx')).JobPage, [
        page(undefined, async () => (await import('./editor/SlopePage.tsx')).SlopePage),
        page('roof', async () => (await import('./roof/RoofPage.tsx')).RoofPage),
        page('details', async () => (await import('./details/DetailsPage.tsx')).DetailsPage),
        page('bench', async () => (await import('./lapbench/LapBench.tsx')).LapBench),
        page('order', async () => (await import('./order/OrderPage.tsx')).OrderPage),
        page('print', async () => (await import('./print/PrintPage.tsx')).PrintPage),
        page('print/detail', async () => (await import('./print/DetailPrint.tsx')).DetailPrint),
        { path: '*', element: <Navigate to=".." replace /> },
      ]),
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} forceColorScheme="light">
      <Notifications position="bottom-center" />
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
