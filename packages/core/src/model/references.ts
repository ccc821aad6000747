/**
 * Every reference that a record holds, in one place: integrity asks whether each is there, deletion asks who
 * still points at something.
 */
import type { Action, Value } from './action.ts';
import type { Condition, On } from './event.ts';
import { COMPARISONS } from './event.ts';
import type { Machine } from './machine.ts';
import type { AnyRecord, RecordOf, TableName } from './piece.ts';
import type { FacePicture } from './scene-object.ts';

export type RefKind = TableName | 'lanes' | 'states' | 'cues' | 'looks';
/** `path` is relative to the record, e.g. `.tracks[0].object`. */
export type RefVisitor = (kind: RefKind, id: string, path: string) => void;

export function visitReferences<T extends TableName>(table: T, record: RecordOf<T>, visit: RefVisitor): void {
  const r = record as AnyRecord;
  switch (table) {
    case 'objects': {
      const o = r as RecordOf<'objects'>;
      if (o.parent !== null) visit('objects', o.parent, '.parent');
      o.tags.forEach((t, i) => {
        visit('tags', t, `.tags[${i}]`);
      });
      if (o.kind === 'image' || o.kind === 'mesh') visit('assets', o.asset, '.asset');
      visitPictures(o, '', visit);
      o.looks?.forEach((l, i) => {
        if (l.asset !== undefined) visit('assets', l.asset, `.looks[${i}].asset`);
        visitPictures(l, `.looks[${i}]`, visit);
      });
      if (o.mask && 'by' in o.mask) visit('objects', o.mask.by, '.mask.by');
      if (o.base.look) visit('looks', o.base.look, '.base.look');
      return;
    }
    case 'clips': {
      const c = r as RecordOf<'clips'>;
      visit('objects', c.root, '.root');
      c.tracks.forEach((t, i) => {
        visit('objects', t.object, `.tracks[${i}].object`);
        if (t.property === 'look')
          t.keys.forEach((k, n) => {
            if (k.value !== '') visit('looks', String(k.value), `.tracks[${i}].keys[${n}].value`);
          });
      });
      c.cues.forEach((q, i) => {
        visitActions(q.actions, `.cues[${i}].actions`, visit);
      });
      return;
    }
    case 'machines':
      visitMachine(r as Machine, visit);
      return;
    case 'reactions': {
      const re = r as RecordOf<'reactions'>;
      visit('objects', re.object, '.object');
      visitOn(re.on, '.on', visit);
      visitConditions(re.when, '.when', visit);
      if (typeof re.limit === 'object') visitOn(re.limit.onceUntil, '.limit.onceUntil', visit);
      visitActions(re.actions, '.actions', visit);
      return;
    }
    case 'sounds': {
      const { asset } = r as RecordOf<'sounds'>;
      if (asset !== undefined) visit('assets', asset, '.asset');
      return;
    }
    default:
      return;
  }
}

function visitPictures(drawing: object, path: string, visit: RefVisitor): void {
  const { pictures } = drawing as { pictures?: Record<string, FacePicture | undefined> };
  for (const [face, p] of Object.entries(pictures ?? {}))
    if (p) visit('assets', p.asset, `${path}.pictures.${face}.asset`);
}

function visitMachine(m: Machine, visit: RefVisitor): void {
  visit('objects', m.object, '.object');
  m.lanes.forEach((lane, li) => {
    const at = `.lanes[${li}]`;
    if (typeof lane.initial === 'string') visit('states', lane.initial, `${at}.initial`);
    else
      lane.initial.draw.forEach((d, i) => {
        visit('states', d.state, `${at}.initial.draw[${i}].state`);
      });
    if (typeof lane.amount === 'object') visit('signals', lane.amount.signal, `${at}.amount.signal`);
    lane.states.forEach((s, i) => {
      const p = `${at}.states[${i}]`;
      if (typeof s.play === 'object') {
        visit('clips', s.play.clip, `${p}.play.clip`);
        if (typeof s.play.speed === 'object') visit('signals', s.play.speed.signal, `${p}.play.speed.signal`);
      }
      visitActions(s.onEntry ?? [], `${p}.onEntry`, visit);
      visitActions(s.onExit ?? [], `${p}.onExit`, visit);
    });
    lane.transitions.forEach((t, i) => {
      const p = `${at}.transitions[${i}]`;
      if (t.from !== '*') visit('states', t.from, `${p}.from`);
      visit('states', t.to, `${p}.to`);
      if (t.on) visitOn(t.on, `${p}.on`, visit);
      visitConditions(t.when, `${p}.when`, visit);
    });
  });
}

export function visitOn(on: On, path: string, visit: RefVisitor): void {
  if (on.object !== undefined) visit('objects', on.object, `${path}.object`);
  if (on.signal !== undefined) visit('signals', on.signal, `${path}.signal`);
  if (on.message !== undefined) visit('messages', on.message, `${path}.message`);
  if (on.lane !== undefined) visit('lanes', on.lane, `${path}.lane`);
  if (on.state !== undefined) visit('states', on.state, `${path}.state`);
  if (on.clip !== undefined) visit('clips', on.clip, `${path}.clip`);
  if (on.cue !== undefined) visit('cues', on.cue, `${path}.cue`);
}

export function visitConditions(list: readonly Condition[], path: string, visit: RefVisitor): void {
  list.forEach((c, i) => {
    const p = `${path}[${i}]`;
    if ('signal' in c) {
      visit('signals', c.signal, `${p}.signal`);
      for (const k of COMPARISONS) {
        const v = c[k];
        if (typeof v === 'object') visit('signals', v.signal, `${p}.${k}.signal`);
      }
    } else if (c.fact === 'state') {
      visit('lanes', c.lane, `${p}.lane`);
      visit('states', c.state, `${p}.state`);
    } else {
      visit('clips', c.clip, `${p}.clip`);
      if (c.object !== undefined) visit('objects', c.object, `${p}.object`);
    }
  });
}

export function visitActions(list: readonly Action[], path: string, visit: RefVisitor): void {
  list.forEach((a, i) => {
    const p = `${path}[${i}]`;
    if ('signal' in a) visit('signals', a.signal, `${p}.signal`);
    if ('message' in a) visit('messages', a.message, `${p}.message`);
    if ('object' in a) visit('objects', a.object, `${p}.object`);
    if ('sound' in a) visit('sounds', a.sound, `${p}.sound`);
    if (a.do === 'go') {
      visit('lanes', a.lane, `${p}.lane`);
      visit('states', a.state, `${p}.state`);
    }
    if (a.do === 'look') {
      if (a.to !== '') visit('looks', a.to, `${p}.to`);
    } else if ('to' in a) visitValue(a.to, `${p}.to`, visit);
    if ('by' in a) visitValue(a.by, `${p}.by`, visit);
  });
}

function visitValue(v: Value, path: string, visit: RefVisitor): void {
  if (typeof v !== 'object') return;
  if ('signal' in v) visit('signals', v.signal, `${path}.signal`);
  else
    for (const [k, list] of Object.entries(v)) {
      (list as Value[]).forEach((x, i) => {
        visitValue(x, `${path}.${k}[${i}]`, visit);
      });
    }
}
