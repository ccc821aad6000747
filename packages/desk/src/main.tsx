import '@fontsource-variable/fraunces';
import '@fontsource-variable/public-sans';
import '@fontsource/ibm-plex-mono/400.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Crashed, NotFound } from './app/Lost.tsx';
import { Shelf } from './screens/shelf/Shelf.tsx';
import { tidyUp } from './session/keep/keeping.ts';
import { watchForLost } from './session/keep/second-copy.ts';
import { openStorage } from './session/keep/storage.ts';
import { applyTheme } from './ui/theme.ts';

applyTheme();
await openStorage();
// Said on the shelf; nobody waits for it.
void watchForLost();
// Housekeeping, when there is nothing else to do; what fails is tried again with the next page.
setTimeout(() => void tidyUp().catch(() => {}), 5000);
const piecePages = () => import('./app/piece-pages.ts');
const guide = () => import('./screens/guide/Guide.tsx');
const router = createBrowserRouter([
  {
    errorElement: <Crashed />,
    // While the pages of a piece come: the shelf does not wait for them.
    HydrateFallback: () => <p className="p-6">Opening…</p>,
    children: [
      { path: '/', element: <Shelf /> },
      { path: '/guide', lazy: async () => ({ Component: (await guide()).Guide }) },
      { path: '/guide/:page', lazy: async () => ({ Component: (await guide()).Guide }) },
      { path: '/new', lazy: async () => ({ Component: (await piecePages()).NewPiece }) },
      {
        path: '/piece/:id',
        lazy: async () => ({ Component: (await piecePages()).PiecePage }),
        children: [
          { index: true, lazy: async () => ({ Component: (await piecePages()).Screen }) },
          { path: 'hand-over', lazy: async () => ({ Component: (await piecePages()).HandOver }) },
        ],
      },
      { path: '*', element: <NotFound /> },
    ],
  },
]);
createRoot(document.getElementById('root') as HTMLElement).render(
  <QueryClientProvider client={new QueryClient()}>
    <RouterProvider router={router} />
  </QueryClientProvider>,
);
