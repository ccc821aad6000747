import { emptyPiece } from '@apple-tick/core/model';
import { compile } from '@apple-tick/core/run';
import { describe, expect, it, vi } from 'vitest';
import { Player } from './player.ts';

const player = () => new Player(compile(emptyPiece('p', 'Test')), { azimuth: 0, elevation: 0 });
const inputs = (p: Player) => p.tick().filter((r) => r.kind === 'input');

describe('player', () => {
  it('has done tick 0 before the first frame, then turns time into ticks', () => {
    const p = player();
    expect(p.run.tick).toBe(0);
    p.advance(1000);
    expect(p.run.tick).toBe(0);
    p.advance(1050);
    expect(p.run.tick).toBe(3);
    // What is left over of a frame counts in the next one.
    for (let i = 1; i <= 10; i++) p.advance(1050 + i * 10.2);
    expect(p.run.tick).toBe(9);
  });

  it('after a long pause it goes on, it does not catch up', () => {
    const p = player();
    p.advance(0);
    p.advance(60_000);
    expect(p.run.tick).toBe(12);
    p.advance(60_017);
    expect(p.run.tick).toBe(13);
  });

  it('ticks that take long make the run slow, not the page', () => {
    const p = player();
    p.advance(0);
    let clock = 0;
    const now = vi.spyOn(performance, 'now').mockImplementation(() => {
      clock += 30;
      return clock;
    });
    p.advance(200);
    now.mockRestore();
    // 12 were due; each took 30 ms of the 40 that a frame has.
    expect(p.run.tick).toBe(2);
  });

  it('slowed down it does fewer ticks; paused none, but for those asked for', () => {
    const p = player();
    p.advance(0);
    p.speed = 0.25;
    p.advance(160);
    expect(p.run.tick).toBe(2);
    p.paused = true;
    p.advance(1000);
    expect(p.run.tick).toBe(2);
    p.tick();
    expect(p.run.tick).toBe(3);
    // Time that passed while it was paused is not made up for.
    p.paused = false;
    p.advance(1017);
    expect(p.run.tick).toBeLessThanOrEqual(4);
  });

  it('of several moves in a tick the newest counts; presses and releases all do', () => {
    const p = player();
    for (let x = 0; x < 5; x++) p.input({ pointer: { x, y: 0, down: false } });
    expect(inputs(p)).toHaveLength(1);
    p.input({ pointer: { x: 1, y: 0, down: false } });
    p.input({ pointer: { x: 1, y: 0, down: true } });
    p.input({ pointer: { x: 1, y: 0, down: false } });
    expect(inputs(p).length).toBeGreaterThanOrEqual(3);
    expect(inputs(p)).toHaveLength(0);
  });
});
