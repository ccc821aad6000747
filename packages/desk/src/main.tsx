import '@fontsource-variable/fraunces';
import '@fontsource-variable/public-sans';
import '@fontsource/ibm-plex-mono/400.css';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { HandOver } from './app/HandOver.tsx';
import { PiecePage } from './app/PiecePage.tsx';
import { Shelf } from './features/shelf/Shelf.tsx';
import { dropUnusedFiles } from './session/keeping.ts';
import { applyTheme } from './ui/theme.ts';

applyTheme();
// Housekeeping, when there is nothing else to do.
setTimeout(() => void dropUnusedFiles(), 5000);
const router = createBrowserRouter([
  { path: '/', element: <Shelf /> },
  { path: '/piece/:id', element: <PiecePage /> },
  { path: '/piece/:id/hand-over', element: <HandOver /> },
]);
createRoot(document.getElementById('root') as HTMLElement).render(
  <QueryClientProvider client={new QueryClient()}>
    <RouterProvider router={router} />
  </QueryClientProvider>,
);
