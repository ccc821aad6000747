/** Cue sheets: when each cue begins and ends, what waits, what stops, and what is asked for again. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPiece } from '../src/check/index.ts';
import {
  type Action,
  type CueSheet,
  emptyPiece,
  type Piece,
  planOf,
  type SheetCue,
  writePiece,
} from '../src/model/index.ts';
import { compile, editRun, loadRun, Run, saveRun, type TraceRecord } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';

const cue = (id: string, t: number, actions: Action[] = [], more: Partial<SheetCue> = {}): SheetCue => ({
  ...{ id, name: id, t, actions, then: [], thenAfter: [] },
  ...more,
});
const tween = (seconds: number, property = 'position.x', to = 100, object = 'ob_a'): Action => ({
  ...{ do: 'tween', object, property, to, seconds, easing: 'linear' },
});

function pieceOf(cues: SheetCue[], more: Partial<CueSheet> = {}): Piece {
  const p = emptyPiece('p', 'Sheets');
  for (const id of ['ob_a', 'ob_b'])
    p.objects[id] = objectOf(
      id,
      { kind: 'rect', size: [20, 20] },
      { position: [id === 'ob_a' ? 0 : 100, 0, 0] },
    );
  p.messages['me_go'] = { id: 'me_go', name: 'go', note: '' };
  p.cueSheets['sh_a'] = { id: 'sh_a', name: 'Opening', cues, again: 'restart', end: 'stop', ...more };
  const react = (id: string, key: string, actions: Action[]) => {
    p.reactions[id] = {
      ...{ id, object: 'ob_b', on: { event: 'key.down', key }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always', actions },
    };
  };
  react('re_go', 'g', [{ do: 'sheet', sheet: 'sh_a' }]);
  react('re_stop', 's', [{ do: 'stopSheet', sheet: 'sh_a' }]);
  react('re_x', 'x', [{ do: 'put', object: 'ob_a', property: 'position.x', to: 5 }]);
  return p;
}

class Scene extends Case {
  /** Cues and sheets as they came: the instant in ticks, rounded to thousandths. */
  get told(): string[] {
    return this.records.flatMap((r) => {
      if (!r.sheet) return [];
      const what = r.cue ?? (r.event === 'sheet.start' ? 'starts' : r.event === 'sheet.done' ? 'done' : '');
      return what === '' ? [] : [`${Math.round(r.t * 60 * 1000) / 1000} ${what}`];
    });
  }
}

describe('cue sheets', () => {
  it('cues come at their times, from the start of the sheet, of another, and from its end', () => {
    const c = new Scene(
      pieceOf([
        cue('cu_a', 0.5, [tween(1)], {
          then: [cue('cu_b', 0.25), cue('cu_c', 0.1)],
          thenAfter: [cue('cu_d', 0), cue('cu_e', 0.5)],
        }),
        cue('cu_f', 0),
      ]),
    );
    c.key('g').to(200);
    expect(c.told).toEqual([
      '1 starts',
      '1 cu_f',
      '31 cu_a',
      '37 cu_c',
      '46 cu_b',
      '91 cu_d',
      '121 cu_e',
      '121 done',
    ]);
    // Each follows from what it is timed from.
    const of = (id: string) => c.records.find((r) => r.cue === id) as TraceRecord;
    expect(of('cu_d').cause).toBe(of('cu_a').id);
    expect(c.records.find((r) => r.id === of('cu_a').cause)?.event).toBe('sheet.start');
  });

  it('dates are exact between ticks', () => {
    const c = new Scene(pieceOf([cue('cu_a', 0.0123, [tween(0.1)], { thenAfter: [cue('cu_b', 0.0051)] })]));
    c.key('g').to(60);
    const dates = c.records.filter((r) => r.cue).map((r) => r.t - 1 / 60);
    expect(dates[0]).toBeCloseTo(0.0123, 9);
    expect(dates[1]).toBeCloseTo(0.1174, 9);
  });

  it('a cue ends with the longest of its actions, delays among them; what has no length ends at once', () => {
    const after = (actions: Action[]) => [cue('cu_a', 0, actions, { thenAfter: [cue('cu_b', 0)] })];
    const ends = (actions: Action[]) => {
      const c = new Scene(pieceOf(after(actions)));
      c.key('g').to(400);
      return c.told.find((x) => x.endsWith('cu_b'));
    };
    expect(ends([])).toBe('1 cu_b');
    expect(ends([{ do: 'motor', object: 'ob_a', property: 'rotation.z', rate: 5 }])).toBe('1 cu_b');
    expect(ends([tween(0.5), { ...tween(1, 'rotation.z'), after: 1 }])).toBe('121 cu_b');
    expect(ends([{ do: 'caption', object: 'ob_a', text: 'x', seconds: 2 }])).toBe('121 cu_b');
    expect(ends([{ do: 'send', message: 'me_go', after: 0.75 }])).toBe('46 cu_b');
    expect(ends([{ do: 'face', object: 'ob_a', toward: 'ob_b', seconds: 0.5, easing: 'linear' }])).toBe(
      '31 cu_b',
    );
  });

  it('a once-clip lasts until it is done, a loop does not last', () => {
    for (const [loop, end] of [
      ['once', '31 cu_b'],
      ['loop', '1 cu_b'],
    ] as const) {
      const p = pieceOf([
        cue('cu_a', 0, [{ do: 'play', clip: 'cl_a', object: 'ob_a' }], { thenAfter: [cue('cu_b', 0)] }),
      ]);
      const keys = [0, 0.5].map((t) => ({ t, value: t * 100, easing: 'linear' as const }));
      p.clips['cl_a'] = {
        ...{ id: 'cl_a', name: 'a', root: 'ob_a', duration: 0.5, loop, cues: [] },
        tracks: [{ object: 'ob_a', property: 'rotation.z', mode: 'absolute', keys }],
      };
      const c = new Scene(p);
      c.key('g').to(100);
      expect(c.told).toContain(end);
    }
  });

  it('what is cut short or replaced ends then', () => {
    const p = pieceOf([cue('cu_a', 0, [tween(2)], { thenAfter: [cue('cu_b', 0)] })]);
    const c = new Scene(p);
    c.key('g').to(20).key('x').to(60);
    expect(c.told).toEqual(['1 starts', '1 cu_a', '21 cu_b', '21 done']);
    const caption = pieceOf([
      cue(
        'cu_a',
        0,
        [
          {
            do: 'caption',
            object: 'ob_a',
            text: 'x',
            seconds: null,
            answers: [
              { id: 'an_y', text: 'Yes' },
              { id: 'an_n', text: 'No' },
            ],
          },
        ],
        { thenAfter: [cue('cu_b', 0.5)] },
      ),
    ]);
    const asked = new Scene(caption);
    asked
      .key('g')
      .to(100)
      .step({ answer: { object: 'ob_a', answer: 'No' } })
      .to(160);
    expect(asked.told).toEqual(['1 starts', '1 cu_a', '131 cu_b', '131 done']);
  });

  it('a cue waits from its time on; earlier events do not count; what hangs on it is timed from the event', () => {
    const c = new Scene(
      pieceOf([
        cue('cu_a', 0.5, [], { wait: { event: 'message', message: 'me_go' }, then: [cue('cu_b', 0.1)] }),
        cue('cu_c', 0.1, [], { wait: { event: 'pointer.click' } }),
      ]),
    );
    c.key('g')
      .step({ send: 'go' })
      .to(40)
      .step({ send: 'go' })
      .step({ send: 'go' })
      .step({ click: 'ob_a' })
      .to(100);
    expect(c.told).toEqual(['1 starts', '41 cu_a', '43 cu_c', '47 cu_b', '47 done']);
  });

  it('asked again while it runs it begins anew, does not, or comes after; stopped it tells nothing', () => {
    const cues = [cue('cu_a', 0.5, [{ do: 'send', message: 'me_go', after: 0.5 }])];
    const told = (again: CueSheet['again']) => {
      const c = new Scene(pieceOf(structuredClone(cues), { again }));
      c.key('g').to(33).key('g').to(200);
      const messages = c.records.filter((r) => r.kind === 'message').map((r) => Math.round(r.t * 60));
      return [...c.told, ...messages];
    };
    expect(told('restart')).toEqual(['1 starts', '31 cu_a', '34 starts', '64 cu_a', '94 done', 94]);
    expect(told('ignore')).toEqual(['1 starts', '31 cu_a', '61 done', 61]);
    expect(told('queue')).toEqual([
      '1 starts',
      '31 cu_a',
      '61 done',
      '61 starts',
      '91 cu_a',
      '121 done',
      61,
      121,
    ]);
    const c = new Scene(pieceOf(structuredClone(cues)));
    c.key('g').to(33).key('s').to(200);
    expect(c.told).toEqual(['1 starts', '31 cu_a']);
    expect(c.records.some((r) => r.kind === 'message')).toBe(false);
  });

  it('a loop pauses and begins anew; what is asked for in the pause counts as while it runs', () => {
    const c = new Scene(pieceOf([cue('cu_a', 0.25)], { end: { loop: 0.25 }, again: 'ignore' }));
    c.key('g').to(20).key('g').to(80);
    expect(c.told).toEqual([
      ...[
        '1 starts',
        '16 cu_a',
        '16 done',
        '31 starts',
        '46 cu_a',
        '46 done',
        '61 starts',
        '76 cu_a',
        '76 done',
      ],
    ]);
    const wrong = pieceOf([cue('cu_a', 0)], { end: { loop: 0 } });
    expect(checkIntegrity(wrong)).toEqual([
      {
        code: 'loop',
        path: 'cueSheets.sh_a.end',
        message: 'A cue sheet that takes no time cannot begin anew without a pause.',
      },
    ]);
    const timer = pieceOf([cue('cu_a', 0, [], { wait: { event: 'timer', every: 1 } })]);
    expect(checkIntegrity(timer)[0]?.message).toBe('A cue cannot wait for a timer: give it a time instead.');
  });

  it('events of sheets and cues are heard; tried from a time on, what comes before does not happen', () => {
    const p = pieceOf([
      cue('cu_a', 0.5, [tween(1, 'rotation.z', 90)], { thenAfter: [cue('cu_b', 0.5, [tween(0)])] }),
      cue('cu_c', 1),
    ]);
    p.signals['si_n'] = {
      ...{ id: 'si_n', name: 'n', type: 'number', initial: 0, shared: false, note: '' },
    } as Piece['signals'][string];
    for (const [id, on] of [
      ['re_1', { event: 'sheet.start', sheet: 'sh_a' }],
      ['re_2', { event: 'sheet.done' }],
      ['re_3', { event: 'cue', cue: 'cu_b' }],
    ] as const)
      p.reactions[id] = {
        ...{ id, object: 'ob_a', on, when: [], after: 0, cooldown: 0, limit: 'always' },
        actions: [{ do: 'add', signal: 'si_n', by: 1 }],
      };
    const c = new Scene(p);
    c.key('g').to(150);
    expect(c.run.signalValue('si_n')).toBe(3);
    const later = new Scene(p);
    later.step({ sheet: 'Opening', skip: 1 }).to(150);
    expect(later.told).toEqual(['1 starts', '1 cu_c', '61 cu_b', '61 done']);
  });

  it('goes on from a snapshot, and through an edit that puts another sheet before it', () => {
    const p = pieceOf([
      cue('cu_a', 0.2, [tween(1)], {
        then: [cue('cu_w', 0.1, [], { wait: { event: 'message', message: 'me_go' } })],
        thenAfter: [cue('cu_b', 0.3)],
      }),
    ]);
    const [plain, saved, edited] = [new Scene(p), new Scene(p), new Scene(p)];
    for (const c of [plain, saved, edited]) c.key('g').to(50);
    const other = structuredClone(p);
    other.cueSheets = {
      sh_0: { ...(p.cueSheets['sh_a'] as CueSheet), id: 'sh_0', name: 'First', cues: [cue('cu_0', 0)] },
      ...other.cueSheets,
    };
    other.objects = { ob_0: objectOf('ob_0', { kind: 'group' }, {}, { order: 'A' }), ...other.objects };
    editRun(edited.run, other);
    saved.run = loadRun(new Run(compile(p)), saveRun(saved.run));
    for (const c of [plain, saved, edited]) c.step({ send: 'go' }).to(150);
    expect(plain.told).toEqual(['1 starts', '13 cu_a', '51 cu_w', '91 cu_b', '91 done']);
    expect(saved.told).toEqual(plain.told);
    expect(edited.told).toEqual(plain.told);
  });

  it('is written and read back whole; what it names is known', () => {
    const p = pieceOf([cue('cu_a', 0.5, [tween(1)], { thenAfter: [cue('cu_b', 0)] })]);
    const read = readPiece(writePiece(p));
    expect(read.ok && read.value.cueSheets).toEqual(p.cueSheets);
    const broken = structuredClone(p);
    (broken.cueSheets['sh_a'] as CueSheet).cues[0]?.thenAfter.push(cue('cu_a', 0));
    expect(checkIntegrity(broken).map((x) => x.path)).toEqual(['cueSheets.sh_a.cues[0].thenAfter[1].id']);
  });
});

/** Random trees without waits: all is known beforehand, and what is planned comes so. */
it('500 random sheets run as they are planned', () => {
  const random = seeded(11);
  const some = (n: number) => Math.floor(random() * n);
  for (let n = 0; n < 500; n++) {
    let made = 0;
    const tree = (depth: number): SheetCue[] =>
      Array.from({ length: depth === 0 ? 1 + some(3) : some(3) }, () => {
        const actions: Action[] = Array.from({ length: some(3) }, (): Action => {
          const after = random() < 0.3 ? { after: some(40) / 60 } : {};
          // Each tween has a property of its own, so that none replaces another.
          return random() < 0.5
            ? { ...after, ...tween(some(50) / 60, 'position.x', some(50), `ob_${made}`) }
            : { ...after, do: 'send', message: 'me_go' };
        }).slice(0, 1);
        const c = cue(`cu_${made}`, some(60) / 60, actions);
        made++;
        if (depth < 3) {
          c.then = tree(depth + 1);
          c.thenAfter = tree(depth + 1);
        }
        return c;
      });
    const p = pieceOf(tree(0));
    for (let i = 0; i < made; i++) p.objects[`ob_${i}`] ??= objectOf(`ob_${i}`, { kind: 'group' });
    const sheet = p.cueSheets['sh_a'] as CueSheet;
    const plan = planOf(sheet, () => undefined);
    const c = new Scene(p);
    c.key('g').to(900);
    const came = new Map(c.records.filter((r) => r.cue).map((r) => [r.cue, r.t - 1 / 60]));
    for (const planned of plan)
      expect(came.get(planned.cue.id), `${n} ${planned.cue.id}`).toBeCloseTo(planned.start, 6);
    const done = c.records.find((r) => r.event === 'sheet.done') as TraceRecord;
    expect(done.t - 1 / 60, String(n)).toBeCloseTo(Math.max(...plan.map((x) => x.start + x.length)), 6);
  }
});
