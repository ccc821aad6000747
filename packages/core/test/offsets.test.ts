/** Offset tracks: they add to what is shown when the play begins, and what they gained stays. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import type { Lane, Piece } from '../src/model/index.ts';
import { compile, editRun, pathOf, poseClip, propertyValue, Run } from '../src/runtime/index.ts';
import { go, piece, play, turn } from './box-piece.ts';

/** The box piece with the turn of all its clips told from wherever it is. */
function offsetPiece(states: Lane['states'], transitions: Parameters<typeof piece>[1]): Piece {
  const p = piece(states, transitions);
  for (const c of Object.values(p.clips))
    p.clips[c.id] = { ...c, tracks: c.tracks.map((t) => ({ ...t, mode: 'offset' as const })) };
  return p;
}
const press = { event: 'pulse', signal: 'si_p' } as const;
const ring = { pulse: 'ring' };

describe('a clip with an offset track', () => {
  it('keeps what it gained through a resting state and goes on from there', () => {
    const p = offsetPiece(
      [
        { id: 'st_r', name: 'r', play: 'rest' },
        { id: 'st_a', name: 'a', play: play('cl_o') },
      ],
      [
        { from: 'st_r', to: 'st_a', on: press },
        { from: 'st_a', to: 'st_r', on: { event: 'state.done' } },
      ],
    );
    const run = new Run(compile(p));
    for (const quarter of [1, 2, 3]) {
      go(run, 60, { [run.tick + 1]: ring });
      expect(turn(run)).toBeCloseTo(90 * quarter, 9);
    }
  });

  it('left half-way, keeps the half', () => {
    const p = offsetPiece(
      [
        { id: 'st_r', name: 'r', play: 'rest' },
        { id: 'st_a', name: 'a', play: play('cl_o') },
      ],
      [
        { from: 'st_r', to: 'st_a', on: press },
        { from: 'st_a', to: 'st_r', notBefore: { seconds: 0.25 } },
      ],
    );
    const run = new Run(compile(p));
    go(run, 60, { 0: ring });
    expect(turn(run)).toBeCloseTo(45, 9);
    expect(run.state.isPut(5)).toBe(true);
  });

  it('adds up pass by pass in a loop, also backwards and turned round, without a jump', () => {
    const p = offsetPiece([{ id: 'st_a', name: 'a', play: play('cl_l', { signal: 'si_n' }) }], []);
    const run = new Run(compile(p));
    let before = 0;
    let at = 0;
    for (let i = 0; i < 400; i++) {
      const speed = i < 100 ? 1 : i < 130 ? 0 : i < 330 ? -2 : 0.5;
      go(run, 1, { [run.tick + 1]: { set: { pace: speed } } });
      const now = turn(run);
      expect(Math.abs(now - before)).toBeLessThan(4.1);
      before = now;
      if (run.tick > 0) at += (i <= 100 ? 1 : i <= 130 ? 0 : i <= 330 ? -2 : 0.5) / 60;
      expect(now).toBeCloseTo(at * 120, 6);
    }
  });

  it('does not gain in there-and-back', () => {
    const run = new Run(compile(offsetPiece([{ id: 'st_a', name: 'a', play: play('cl_b') }], [])));
    go(run, 61);
    expect(turn(run)).toBeCloseTo(0, 9);
    go(run, 30);
    expect(turn(run)).toBeCloseTo(60, 9);
  });

  it('begins at what is put, and drops the put', () => {
    const p = offsetPiece(
      [
        { id: 'st_r', name: 'r', play: 'rest' },
        { id: 'st_a', name: 'a', play: play('cl_o') },
      ],
      [{ from: 'st_r', to: 'st_a', on: press }],
    );
    p.reactions['re_a'] = {
      ...{ id: 're_a', object: 'ob_a', on: { event: 'piece.start' }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always', actions: [{ do: 'put', object: 'ob_a', property: 'rotation.z', to: 30 }] },
    } as Piece['reactions'][string];
    const run = new Run(compile(p));
    go(run, 31, { 1: ring });
    expect(turn(run)).toBeCloseTo(30 + (90 * 29) / 30, 9);
    expect(run.state.isPut(5)).toBe(false);
  });

  it('lets a lane above keep what it holds', () => {
    const p = offsetPiece(
      [
        { id: 'st_a', name: 'a', play: play('cl_o') },
        { id: 'st_r', name: 'r', play: 'rest' },
      ],
      [{ from: 'st_a', to: 'st_r', notBefore: { seconds: 0.25 } }],
    );
    const top = p.machines['ma_a']?.lanes[0] as Lane;
    p.clips['cl_t'] = {
      ...(p.clips['cl_o'] as Piece['clips'][string]),
      ...{ id: 'cl_t', name: 't' },
      tracks: (p.clips['cl_o'] as Piece['clips'][string]).tracks.map((t) => ({ ...t, mode: 'absolute' })),
    };
    p.machines['ma_a'] = {
      ...(p.machines['ma_a'] as Piece['machines'][string]),
      lanes: [
        top,
        {
          ...top,
          ...{ id: 'la_b', name: 'above', initial: 'st_t', transitions: [] },
          states: [{ id: 'st_t', name: 't', play: play('cl_t') }],
        },
      ],
    };
    const run = new Run(compile(p));
    go(run, 40);
    expect(run.state.isPut(5)).toBe(false);
  });

  it('goes on without a jump through an edit that makes a track an offset one, and one that does not', () => {
    const states: Lane['states'] = [{ id: 'st_a', name: 'a', play: play('cl_l') }];
    const run = new Run(compile(piece(states, [])));
    go(run, 46);
    const at = turn(run);
    editRun(run, offsetPiece(states, []));
    expect(turn(run)).toBeCloseTo(at, 9);
    go(run, 30);
    expect(turn(run)).toBeCloseTo(at + 60, 9);
    const p = offsetPiece(states, []);
    editRun(run, { ...p, name: 'edited', seed: 9 });
    go(run, 30);
    expect(turn(run)).toBeCloseTo(at + 120, 9);
  });

  it('is posed from the base, on the view and along its path', () => {
    const p = offsetPiece([], []);
    const o = p.objects['ob_a'] as Piece['objects'][string];
    p.objects['ob_a'] = { ...o, base: { ...o.base, rotation: [0, 0, 30], position: [7, 0, 0] } };
    const c = p.clips['cl_o'] as Piece['clips'][string];
    const key = (t: number, value: number) => ({ t, value, easing: 'linear' as const });
    const along = { object: 'ob_a', property: 'position.x', mode: 'offset' as const };
    p.clips['cl_o'] = { ...c, tracks: [...c.tracks, { ...along, keys: [key(0, 5), key(0.5, 25)] }] };
    const program = compile(p);
    const values = program.base.slice();
    poseClip(program, 'cl_o', 0.25, values);
    expect(propertyValue(values, 0, 'rotation.z')).toBeCloseTo(75, 9);
    expect(propertyValue(values, 0, 'position.x')).toBeCloseTo(17, 9);
    expect([...(pathOf(program, 'cl_o', 0, [0, 0.5]) as Float64Array)].map(Math.round)).toEqual([
      7, 0, 0, 27, 0, 0,
    ]);
  });

  it('is refused for what is no number', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    const c = p.clips['cl_o'] as Piece['clips'][string];
    p.clips['cl_o'] = {
      ...c,
      tracks: [
        {
          ...{ object: 'ob_a', property: 'shown', mode: 'offset' as const },
          keys: [{ t: 0, value: true, easing: 'hold' as const }],
        },
      ],
    };
    expect(checkIntegrity(p)).toEqual([
      {
        code: 'mode',
        path: 'clips.cl_o.tracks[0].mode',
        message: 'The property "shown" has no offset: it is not a number.',
      },
    ]);
  });
});
