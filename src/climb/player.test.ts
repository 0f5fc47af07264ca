import type { Motion } from '@/core/transient/motion';
import { createPlayer } from './player';

const motion = (kind: Motion['kind'], cycles = 1): Motion => ({
  kind,
  cycles,
  times: Float64Array.of(0, 1, 2, 3, 4),
  pace: Float64Array.of(0, 0.25, 0.5, 0.75, 1),
  nodes: new Map(),
  capacitors: [],
  diodes: [],
  beyond: [],
  output: new Float64Array(5),
  mostAmps: 1,
  events: [
    { frame: 1, starts: ['D1'], stops: [] },
    { frame: 3, starts: [], stops: ['D1'] },
  ],
});

/** A display whose frames come when the test says so, 16 ms apart. */
function display() {
  let waiting: ((now: number) => void) | null = null;
  let now = 1000;
  const player = createPlayer((run) => {
    waiting = run;
    return () => (waiting = null);
  });
  const frames = (count: number) => {
    for (let done = 0; done < count && waiting; done += 1) {
      const run = waiting;
      waiting = null;
      run((now += 16));
    }
    return waiting !== null;
  };
  return { player, frames };
}

it('plays a period around and around at its speed', () => {
  const { player, frames } = display();
  player.getState().load(motion('settled'));
  player.getState().play();
  frames(126);
  expect(player.getState().position).toBeCloseTo(0.5, 6);
  player.getState().setSpeed(0.25);
  frames(125);
  expect(player.getState().position).toBeCloseTo(0.625, 6);
  player.getState().setSpeed(2);
  expect(frames(125)).toBe(true);
  expect(player.getState().position).toBeCloseTo(0.625, 6);
});

it('plays a charge-up once, and again from its start', () => {
  const { player, frames } = display();
  player.getState().load(motion('charge-up'));
  player.getState().play();
  expect(frames(2000)).toBe(false);
  expect(player.getState()).toMatchObject({ position: 1, playing: false, shown: true });
  player.getState().play();
  frames(2);
  expect(player.getState().position).toBeLessThan(0.01);
});

it('stands where it is put, at a time, or at the next event; a period goes around', () => {
  const { player, frames } = display();
  const { load, play, standAtTime, step, close } = player.getState();
  load(motion('settled'));
  play();
  frames(10);
  standAtTime(3);
  expect(player.getState()).toMatchObject({ position: 0.75, playing: false });
  expect(frames(5)).toBe(false);
  step(1);
  expect(player.getState().position).toBe(0.25);
  step(-1);
  expect(player.getState().position).toBe(0.75);
  close();
  expect(player.getState()).toMatchObject({ shown: false, position: 0 });
  step(1);
  expect(player.getState()).toMatchObject({ shown: true, position: 0.25 });
});

it('a new result of the same kind goes on where the last stood; another kind begins anew; without one nothing plays', () => {
  const { player, frames } = display();
  player.getState().load(motion('settled'));
  player.getState().play();
  frames(50);
  const { position } = player.getState();
  player.getState().load(null);
  expect(frames(5)).toBe(false);
  player.getState().load(motion('settled'));
  expect(player.getState()).toMatchObject({ position, playing: true, shown: true });
  frames(50);
  expect(player.getState().position).toBeGreaterThan(position + 0.1);
  player.getState().load(motion('discharge'));
  expect(player.getState()).toMatchObject({ position: 0, playing: false, shown: true });
  player.getState().load(null);
  player.getState().play();
  expect(frames(5)).toBe(false);
});
