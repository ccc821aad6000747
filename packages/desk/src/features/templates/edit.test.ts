import 'fake-indexeddb/auto';
import { checkIntegrity } from '@apple-tick/core/check';
import { emptyPiece, History, PieceStore, type SceneObject } from '@apple-tick/core/model';
import { compile, propertyValue, Run } from '@apple-tick/core/run';
import { beforeEach, describe, expect, it } from 'vitest';
import { runCommand } from '../../commands/registry.ts';
import { putRecipe, RECIPES } from '../../session/recipes/recipes.ts';
import { Session } from '../../session/session.ts';
import { addObject } from '../../session/things/add-object.ts';
import { moveInTree } from '../../session/things/arrange.ts';
import { addInstance, cutLoose, give, type Instance, openTemplate, usesOfTemplate } from './edit.ts';

let s: Session;
beforeEach(() => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
});
const sound = () => expect(checkIntegrity(s.piece())).toEqual([]);
const text = () => JSON.stringify(s.piece());
const chosen = () => s.store.get('objects', s.state.object ?? '') as SceneObject;

/** A box of 100 px at 150, 40 that a click toggles, and a ball beside it. */
function box(): string {
  addObject(s, 'ball');
  s.select(null);
  s.set({ object: null });
  addObject(s, 'box');
  const id = chosen().id;
  s.edit('Moved', (e) =>
    e.update('objects', id, (o) => ({ ...o, base: { ...o.base, position: [150, 40, 0] } })),
  );
  const hinge = RECIPES.find((r) => r.id === 'spin') ?? RECIPES[0];
  if (hinge) putRecipe(s, hinge, id);
  s.select({ kind: 'object', id });
  return id;
}

/** The values of all that is drawn, by name of the object, after so many ticks with these clicks. */
function played(ticks: number, clicks: Readonly<Record<number, string>> = {}) {
  const run = new Run(compile(s.piece()));
  for (let k = 0; k < ticks; k++) run.step(clicks[k] ? [{ at: 0, click: clicks[k] as string }] : []);
  const out: [kind: string, place: unknown, turn: unknown][] = [];
  run.program.objects.forEach((o, i) => {
    if (o.kind === 'group') return;
    const at = run.scene.matrix(i);
    out.push([
      o.kind,
      [...at.subarray(9, 12)].map((n) => Math.round(n * 1e6) / 1e6),
      propertyValue(run.state.values, i, 'rotation.z'),
    ]);
  });
  return out;
}

describe('a template made of what is chosen', () => {
  it('leaves all where it was and as it was, as one step', () => {
    box();
    const [before, then] = [text(), played(40, { 3: 'Box' })];
    runCommand(s, 'template.make');
    sound();
    expect(played(40, { 3: 'Box' })).toEqual(then);
    const instance = chosen();
    expect([instance.kind, instance.name, instance.base.position]).toEqual(['instance', 'Box', [150, 40, 0]]);
    const { templates, machines, clips, signals } = s.piece();
    const template = Object.values(templates)[0];
    expect([machines, clips]).toEqual([{}, {}]);
    // What only it goes by is its own from now on.
    expect(Object.keys(template?.signals ?? {}).length + Object.keys(signals).length).toBeGreaterThanOrEqual(
      0,
    );
    expect(Object.values(template?.objects ?? {})[0]?.base.position).toEqual([0, 0, 0]);
    s.undo();
    expect(text()).toBe(before);
    s.redo();
    sound();
  });

  it('takes the keys of its own place along, and what names it from outside finds it', () => {
    const id = box();
    const ball = s.store.all('objects').find((o) => o.kind === 'ball')?.id as string;
    s.edit('Keyed', (e) => {
      const key = (t: number, value: number) => ({ t, value, easing: 'linear' as const });
      e.add('clips', {
        ...{ id: 'cl_both', name: 'both', root: ball, duration: 1, loop: 'loop', cues: [] },
        tracks: [
          { object: id, property: 'position.x', mode: 'absolute', keys: [key(0, 150), key(1, 250)] },
          { object: ball, property: 'position.y', mode: 'absolute', keys: [key(0, 0), key(1, 60)] },
        ],
      });
      e.add('reactions', {
        ...{ id: 're_b', object: ball, on: { event: 'pointer.click', object: id }, when: [], after: 0 },
        ...{ cooldown: 0, limit: 'always' },
        actions: [
          { do: 'play', clip: 'cl_both', object: ball },
          { do: 'put', object: id, property: 'position.y', to: 100 },
        ],
      });
    });
    const then = played(45, { 2: 'Box' });
    runCommand(s, 'template.make');
    sound();
    expect(played(45, { 2: 'Box' })).toEqual(then);
  });

  it('of several things puts them into a group first; of the visitor none is made, and it says why', () => {
    box();
    s.selectMany(s.store.ids('objects'));
    runCommand(s, 'template.make');
    sound();
    expect(Object.values(s.piece().templates).map((t) => Object.keys(t.objects).length)).toEqual([3]);
    s.undo();
    runCommand(s, 'visitor.add');
    const before = text();
    runCommand(s, 'template.make');
    expect(s.state.notice).toContain('holds the visitor');
    expect(text()).toBe(before);
  });
});

describe('its instances', () => {
  beforeEach(() => {
    box();
    runCommand(s, 'template.make');
  });
  const instance = () => chosen() as Instance;

  it('are placed beside one another, duplicated, and all changed by what is changed in one', () => {
    const first = instance();
    addInstance(s, first.template);
    runCommand(s, 'duplicate');
    sound();
    expect(usesOfTemplate(s.store, first.template).map((o) => o.name)).toEqual(['Box', 'Box 2', 'Box 3']);
    openTemplate(s, first.id);
    expect(s.inside.map((x) => x.id)).toEqual([first.id]);
    expect(s.store.all('objects').map((o) => o.name)).toEqual(['Box']);
    const root = s.store.all('objects')[0]?.id as string;
    s.select({ kind: 'object', id: root });
    addObject(s, 'ellipse');
    sound();
    // What is made in it lies in its topmost object.
    expect(chosen().parent).toBe(root);
    const drawn = s.program.objects.filter((o) => o.kind === 'ellipse').map((o) => o.id);
    expect(drawn).toEqual([
      chosen().id,
      ...usesOfTemplate(s.store, first.template)
        .slice(1)
        .map((o) => `${o.id}/${chosen().id}`),
    ]);
    runCommand(s, 'fold');
    runCommand(s, 'fold');
    expect([s.inside, chosen().id]).toEqual([[], first.id]);
    expect(s.program.objects.filter((o) => o.kind === 'ellipse')).toHaveLength(3);
  });

  it('an undo past the making of what is open leads out; one of what was done elsewhere leads there', () => {
    const { id } = instance();
    openTemplate(s, id);
    addObject(s, 'ellipse');
    s.goOut();
    s.undo();
    expect(s.inside.map((x) => x.id)).toEqual([id]);
    s.undo();
    expect(s.inside).toEqual([]);
    expect(s.store.scope).toBe(null);
    sound();
    s.redo();
    s.redo();
    sound();
    expect(s.inside.map((x) => x.id)).toEqual([id]);
  });

  it('have values of their own, which can be given back', () => {
    const first = instance();
    openTemplate(s, first.id);
    s.edit('Added', (e) =>
      e.add('signals', { id: 'si_n', name: 'number', type: 'number', initial: 1, shared: false, note: '' }),
    );
    s.goOut();
    const signal = s.store.get('signals', 'si_n');
    if (!signal) throw new Error('none');
    give(s, instance(), signal, 7);
    sound();
    expect(s.program.signals.map((x) => [x.name, 'initial' in x && x.initial])).toContainEqual([
      'Box/number',
      7,
    ]);
    give(s, instance(), signal, undefined);
    expect(instance().signals).toEqual({});
  });

  it('the topmost object of what is open stays its only one, and it is not placed in itself', () => {
    const { id, template } = instance();
    openTemplate(s, id);
    const root = s.store.all('objects')[0]?.id as string;
    s.select({ kind: 'object', id: root });
    const before = text();
    runCommand(s, 'delete');
    expect(s.state.notice).toContain('delete the template instead');
    expect(addInstance(s, template)).toBe(null);
    expect(s.state.notice).toContain('cannot be placed in itself');
    expect(text()).toBe(before);
    runCommand(s, 'duplicate');
    sound();
    expect(chosen().parent).toBe(root);
    expect(moveInTree(s, [chosen().id], null, null)).toBe(true);
    sound();
    expect(chosen().parent).toBe(root);
    runCommand(s, 'join');
    sound();
  });

  it('cut loose it is ordinary records that run alike, and undo makes it an instance again', () => {
    const first = instance();
    addInstance(s, first.template);
    const second = instance();
    give(s, second, { id: 'si_none' } as never, 3);
    const then = played(50, { 4: 'Box 2/Box' });
    const before = text();
    cutLoose(s, second.id);
    sound();
    expect(played(50, { 4: 'Box 2/Box' })).toEqual(then);
    expect(chosen().kind).toBe('group');
    expect(usesOfTemplate(s.store, first.template)).toHaveLength(1);
    s.undo();
    expect(text()).toBe(before);
  });

  it('a template of a template: opened one in the other', () => {
    const inner = instance();
    addInstance(s, inner.template);
    s.selectMany(usesOfTemplate(s.store, inner.template).map((o) => o.id));
    runCommand(s, 'template.make');
    sound();
    const outer = instance();
    addInstance(s, outer.template);
    openTemplate(s, outer.id);
    const [first] = s.store.all('objects').filter((o) => o.kind === 'instance');
    openTemplate(s, first?.id ?? '');
    expect(s.inside.map((x) => x.id)).toEqual([outer.id, first?.id]);
    const bare = s.program.objects.filter((o) => o.kind === 'box').map((o) => o.id.includes('/'));
    expect(bare.filter((x) => !x)).toHaveLength(1);
    expect(bare).toHaveLength(4);
  });
});
