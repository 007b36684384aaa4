import '@fontsource-variable/ibm-plex-sans';
import '@fontsource-variable/source-serif-4';
import '@fontsource/ibm-plex-mono/latin-400.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, useRouteError } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { Page } from './ui/page';
import { beginTheme } from './ui/theme';

beginTheme();
/** When what may be needed later is loaded, ms after the page. */
const LATER = 1500;
const client = () => import('./worker/client');
// The worker loads beside the workbench, not after it; elsewhere the one that is slow to load does so before a design is opened.
if (location.pathname.startsWith('/d/')) void client().then(({ wakeGeometry }) => wakeGeometry());
else setTimeout(() => void client().then(({ wakeDeep }) => wakeDeep()), LATER);

const queryClient = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 0, retry: 1, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

const router = createBrowserRouter([
  {
    path: '/',
    lazy: async () => ({ Component: (await import('./shelf/shelf')).default }),
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
  },
  {
    path: '/d/:id',
    lazy: async () => ({ Component: (await import('./workbench/workbench')).default }),
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
  },
  {
    path: '/review',
    lazy: async () => ({ Component: (await import('./workbench/review-page')).default }),
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
  },
  {
    path: '/help',
    lazy: async () => ({ Component: (await import('./help/help')).default }),
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
  },
  { path: '*', element: <Nowhere /> },
]);

// Help from any page, but for where a question mark can be written.
window.addEventListener('keydown', (event) => {
  if (event.key !== '?' || event.ctrlKey || event.metaKey || event.altKey) return;
  if ((event.target as HTMLElement).closest('input, textarea, select, [role=menu], [role=dialog]')) return;
  void router.navigate('/help');
});

function Nowhere() {
  return <Page title="There is nothing here" text="The address leads nowhere." />;
}

function Broken() {
  const error = useRouteError();
  return (
    <Page
      title="Something broke"
      text={`Your designs are kept. Reload the page to go on. ${error instanceof Error ? `(${error.message})` : ''}`}
    />
  );
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
