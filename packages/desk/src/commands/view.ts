/** What is seen, and where the focus is. */
import type { Session } from '../session/session.ts';
import type { CommandInfo } from './command.ts';

/** Gives the focus to the first such thing on the screen; false when there is none. */
function goTo(selector: string): boolean {
  const found = document.querySelector<HTMLElement>(selector);
  found?.focus();
  return found !== null;
}

/** About the middle of the view. */
function zoomBy(s: Session, factor: number): void {
  const { zoom, pan } = s.state;
  const to = Math.max(0.1, Math.min(16, zoom * factor));
  s.set({ zoom: to, pan: { x: (pan.x * to) / zoom, y: (pan.y * to) / zoom } });
}

export const VIEW: readonly CommandInfo[] = [
  {
    id: 'view.zones',
    place: 'view',
    name: 'Show the zones, or hide them',
    keys: [],
    run: (s) => s.set({ zones: !s.state.zones }),
  },
  {
    id: 'only',
    place: 'view',
    needs: 'choose an object first',
    name: 'Only this, or all again',
    keys: ['o'],
    run: (s) => s.set({ only: s.state.only === null ? s.state.object : null }),
    enabled: (s) => s.state.only !== null || s.state.object !== null,
  },
  {
    id: 'view.front',
    place: 'view',
    name: 'Front view',
    keys: ['1'],
    run: (s) => s.set({ azimuth: 0, elevation: 0 }),
  },
  {
    id: 'view.quarter',
    place: 'view',
    name: 'Three-quarter view',
    keys: ['2'],
    run: (s) => s.set({ azimuth: 35, elevation: 29 }),
  },
  {
    id: 'view.top',
    place: 'view',
    name: 'Top view',
    keys: ['3'],
    run: (s) => s.set({ azimuth: 0, elevation: 90 }),
  },
  {
    id: 'fit',
    place: 'view',
    name: 'Fit the frame',
    keys: ['0'],
    run: (s) => s.set({ zoom: 1, pan: { x: 0, y: 0 } }),
  },
  { id: 'zoom.in', place: 'view', name: 'Zoom in', keys: ['+'], run: (s) => zoomBy(s, 1.25) },
  { id: 'zoom.out', place: 'view', name: 'Zoom out', keys: ['-'], run: (s) => zoomBy(s, 0.8) },
  {
    ...{ id: 'to.properties', place: 'view', name: 'Go to the properties', keys: ['e'] },
    run: () =>
      void (
        goTo('[aria-label="Properties"] [aria-label="Place x"]') ||
        goTo('[aria-label="Properties"] :is(select, input, button)')
      ),
  },
  {
    ...{ id: 'to.objects', place: 'view', name: 'Go to the objects', keys: ['w'] },
    run: () => void goTo('[role="tree"]'),
  },
  {
    ...{ id: 'to.timeline', place: 'view', name: 'Go to the timeline or the lanes', keys: ['t'] },
    run: () => void goTo('[aria-label="Timeline"], [aria-label="Deck"] [aria-label^="State "]'),
  },
  {
    ...{ id: 'ghosts', place: 'view', name: 'Ghosts and paths, on or off', keys: ['g'] },
    run: (s) => s.set({ ghosts: !s.state.ghosts }),
  },
];
