import fc from 'fast-check';
import { transientOf } from '../src/core/transient/transient';
import { finish } from '../src/core/numeric/finish';
import { hobbyDesign } from '../tests/reference/hobby-design';
import { median, say } from './measure';

/**
 * `npm run fuzz -- 2000 7`: settles so many hobby ladders made at random from a
 * seed. Each must settle or say why, with an estimate of its error; exit 1
 * otherwise.
 */
const runs = Number(process.argv[2] ?? 200);
const seed = Number(process.argv[3] ?? 1);

const tally = { settled: 0, unsettled: 0, wrong: 0 };
const times: number[] = [];
fc.sample(hobbyDesign, { numRuns: runs, seed }).forEach((design, at) => {
  const start = performance.now();
  const { transient } = finish(transientOf(design, 100));
  times.push(performance.now() - start);
  const { error, converged, reason } = transient;
  const estimated = [transient.meanVolts, error.settlingVolts, error.steppingVolts, error.chargeResidue];
  if (!estimated.every(Number.isFinite) || converged !== (reason === null)) {
    tally.wrong += 1;
    say(`${at}: no estimate or no reason: ${JSON.stringify(design)}`);
  } else if (converged) tally.settled += 1;
  else {
    tally.unsettled += 1;
    const { topology, stages } = design.ladder;
    say(`${at}: ${topology}, ${stages} stages, ${design.driver.waveform}, ${design.load.kind}: ${reason}`);
  }
});
say(
  `${tally.settled} of ${runs} settled, ${tally.unsettled} said why not, ${tally.wrong} neither; median ${median(times).toFixed(0)} ms, longest ${(Math.max(...times) / 1000).toFixed(1)} s`,
);
process.exitCode = tally.wrong > 0 ? 1 : 0;
