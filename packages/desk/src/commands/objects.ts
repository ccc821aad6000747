/** Objects: placed, drawn, grouped, made templates of. */
import { addInstance, cutLoose, makeTemplate, openTemplate } from '../features/templates/edit.ts';
import { addVisitor } from '../features/visitor/edit.ts';
import { addZones } from '../features/zones/edit.ts';
import { DRAW_KEYS, DRAWN_KINDS, type DrawnKind, KIND_WORDS } from '../session/model-help.ts';
import type { Session } from '../session/session.ts';
import { addObject } from '../session/things/add-object.ts';
import { copyPlacement, hasPlacement, joinUnderRoot, pastePlacement } from '../session/things/arrange.ts';
import { drawingOf } from '../session/things/brought.ts';
import { anyChosen, type CommandInfo } from './command.ts';

/** The one instance that is chosen. */
const instanceOf = (s: Session) => {
  const o = s.selected?.kind === 'object' ? s.store.get('objects', s.selected.id) : undefined;
  return o?.kind === 'instance' && s.chosen.length === 1 ? o : undefined;
};

/** A kind with its article. */
const a = (kind: DrawnKind) => `${kind === 'ellipse' ? 'an' : 'a'} ${KIND_WORDS[kind]}`;

export const OBJECTS: readonly CommandInfo[] = [
  {
    ...{ id: 'drawing.newer', place: 'objects', name: 'Replace with a newer file…', keys: [] },
    needs: 'choose a drawing that was brought in',
    run: (s) => {
      const root = drawingOf(s.store, s.state.object);
      if (root) s.page?.newer(root.id);
    },
    enabled: (s) => s.page !== null && drawingOf(s.store, s.state.object) !== undefined,
  },
  {
    id: 'placement.copy',
    place: 'objects',
    needs: 'choose an object first',
    name: 'Copy the placement',
    keys: ['c'],
    run: copyPlacement,
    enabled: anyChosen,
  },
  {
    id: 'placement.paste',
    place: 'objects',
    needs: 'copy a placement first',
    name: 'Paste the placement',
    keys: ['v'],
    run: pastePlacement,
    enabled: (s) => anyChosen(s) && hasPlacement(),
  },
  ...(['box', 'near'] as const).map((kind) => ({
    id: `zone.${kind}`,
    place: 'objects' as const,
    needs: 'choose objects first',
    name: kind === 'near' ? 'Notice what comes near what is chosen' : 'Give what is chosen a zone',
    keys: [],
    run: (s: Session) => addZones(s, s.chosen, kind),
    enabled: anyChosen,
  })),
  {
    ...{
      id: 'visitor.add',
      place: 'objects',
      name: 'Add a visitor: a figure that the person walks',
      keys: [],
    },
    needs: 'there is one already: choose it',
    enabled: (s) => s.store.head.visitor === null && s.store.scope === null && !s.state.readOnly,
    run: addVisitor,
  },
  {
    ...{ id: 'zone.block', place: 'objects', name: 'Let what is chosen block what comes', keys: [] },
    needs: 'choose an object first',
    enabled: (s) => s.chosen.length > 0 && !s.state.readOnly,
    run: (s) => addZones(s, s.chosen, 'box', 'blocker'),
  },
  {
    ...{ id: 'template.make', place: 'objects', name: 'Make a template of this', keys: ['m'] },
    needs: 'choose an object first',
    enabled: (s) => anyChosen(s) && !s.state.readOnly,
    run: makeTemplate,
  },
  {
    ...{ id: 'template.open', place: 'objects', name: 'Open its template in place', keys: ['Enter'] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined,
    run: (s) => openTemplate(s, instanceOf(s)?.id ?? ''),
  },
  {
    ...{ id: 'template.place', place: 'objects', name: 'Place another of its template', keys: [] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined,
    run: (s) => void addInstance(s, instanceOf(s)?.template ?? ''),
  },
  {
    ...{ id: 'template.loose', place: 'objects', name: 'Cut it loose from its template', keys: [] },
    needs: 'choose one of a template first',
    enabled: (s) => instanceOf(s) !== undefined && !s.state.readOnly,
    run: (s) => cutLoose(s, instanceOf(s)?.id ?? ''),
  },
  ...DRAWN_KINDS.filter((kind) => kind !== 'group').map((kind) => ({
    id: `draw.${kind}`,
    place: 'objects' as const,
    name: `Draw ${a(kind)}`,
    keys: DRAW_KEYS[kind] ? [DRAW_KEYS[kind]] : [],
    run: (s: Session) => s.set({ tool: 'shape', shape: kind }),
    enabled: (s: Session) => !s.state.running,
  })),
  {
    id: 'draw.points',
    place: 'objects',
    name: 'Draw a path by points',
    keys: ['p'],
    run: (s) => s.set({ tool: 'pen' }),
  },
  {
    id: 'join',
    place: 'objects',
    needs: 'choose objects first',
    name: 'Group under one root',
    keys: ['Mod+g', 'Mod+j'],
    run: joinUnderRoot,
    enabled: anyChosen,
  },
  ...DRAWN_KINDS.map((kind) => ({
    id: `add.${kind}`,
    place: 'objects' as const,
    name: `Add ${a(kind)}`,
    keys: [],
    run: (s: Session) => addObject(s, kind),
  })),
];
