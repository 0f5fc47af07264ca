/** kT/q at 27 °C, V. */
const THERMAL_VOLTS = 0.02585;

type Wave = (seconds: number) => number;
type Element =
  | { kind: 'R' | 'C' | 'L'; from: string; to: string; value: number; begins: number }
  | { kind: 'V' | 'I'; from: string; to: string; wave: Wave }
  | { kind: 'D'; from: string; to: string; model: Record<string, number> };

export type ReadNetlist = { title: string; elements: Element[]; step: number; stop: number };

/** A netlist in the common line syntax: R, C and L with a value, V and I with DC, SIN or PULSE, D with a model, one `.tran` line. */
export function readNetlist(text: string): ReadNetlist {
  const [title, ...lines] = text.trim().split('\n');
  const models = new Map<string, Record<string, number>>();
  for (const line of lines) {
    const model = /^\.model (\w+) D\((.*)\)$/.exec(line);
    if (model)
      models.set(
        model[1],
        Object.fromEntries(model[2].split(' ').map((pair) => [pair.split('=')[0], Number(pair.split('=')[1])])),
      );
  }
  const elements: Element[] = [];
  let [step, stop] = [NaN, NaN];
  for (const line of lines) {
    if (line.startsWith('*') || line.startsWith('.model') || line === '.end') continue;
    const words = line.split(' ');
    if (words[0] === '.tran') {
      [step, stop] = [Number(words[1]), Number(words[2])];
      continue;
    }
    const kind = words[0][0];
    const [from, to] = [words[1], words[2]];
    if (kind === 'R' || kind === 'C' || kind === 'L') {
      const begins = Number(/IC=(\S+)/.exec(line)?.[1] ?? 0);
      elements.push({ kind, from, to, value: Number(words[3]), begins });
    } else if (kind === 'V' || kind === 'I') elements.push({ kind, from, to, wave: waveOf(words.slice(3).join(' ')) });
    else if (kind === 'D') elements.push({ kind, from, to, model: models.get(words[3])! });
    else throw new Error(`No such line: ${line}`);
  }
  return { title, elements, step, stop };
}

function waveOf(words: string): Wave {
  const numbers = (/\((.*)\)/.exec(words)?.[1] ?? words.replace('DC ', '')).split(' ').map(Number);
  if (words.startsWith('SIN')) {
    const [offset, amplitude, hertz] = numbers;
    return (seconds) => offset + amplitude * Math.sin(2 * Math.PI * hertz * seconds);
  }
  if (words.startsWith('PULSE')) {
    const [low, high, delay, rise, fall, wide, period] = numbers;
    return (seconds) => {
      const at = (((seconds - delay) % period) + period) % period;
      if (at < rise) return low + ((high - low) * at) / rise;
      if (at < rise + wide) return high;
      if (at < rise + wide + fall) return high - ((high - low) * (at - rise - wide)) / fall;
      return low;
    };
  }
  return () => numbers[0];
}

/**
 * Its nodes in time: nodal equations, backward differences of second order in even steps, diodes by Newton with their
 * exponential limited (handbook).
 *
 * @param watched the node of which the mean over the last period is wanted
 * @param seconds of one period
 */
export function solvedMean(netlist: ReadNetlist, watched: readonly [string, string], seconds: number): number {
  const { elements, step, stop } = netlist;
  const nodes = new Map<string, number>();
  const nodeAt = (name: string): number => {
    if (name === '0') return -1;
    if (!nodes.has(name)) nodes.set(name, nodes.size);
    return nodes.get(name)!;
  };
  const ends = elements.map(({ from, to }) => [nodeAt(from), nodeAt(to)] as const);
  // A diode has its resistance behind a node of its own.
  const inner = elements.map((one, at) => (one.kind === 'D' ? nodeAt(`inner ${at}`) : -1));
  const branches = elements.flatMap(({ kind }, at) => (kind === 'V' || kind === 'L' ? [at] : []));
  const size = nodes.size + branches.length;
  const x = new Float64Array(size);
  const across = (at: number) => (ends[at][0] < 0 ? 0 : x[ends[at][0]]) - (ends[at][1] < 0 ? 0 : x[ends[at][1]]);
  /** Charge of a capacitor or diode, flux of an inductance, now and a step before. */
  const held = elements.map((one) => (one.kind === 'C' ? one.value * one.begins : 0));
  const before = [...held];
  const junction = elements.map(() => 0);
  const matrix = Array.from({ length: size }, () => new Float64Array(size));
  const right = new Float64Array(size);
  const steps = Math.round(stop / step);
  let [sum, count] = [0, 0];
  for (let number = 1; number <= steps; number += 1) {
    const now = number * step;
    // The first step has none before it.
    const [a, b, c] = number === 1 ? [1 / step, -1 / step, 0] : [1.5 / step, -2 / step, 0.5 / step];
    for (let round = 0; ; round += 1) {
      if (round === 200) throw new Error(`No solution at ${now} s`);
      for (const row of matrix) row.fill(0);
      right.fill(0);
      const put = (row: number, column: number, value: number) => {
        if (row >= 0 && column >= 0) matrix[row][column] += value;
      };
      const join = (from: number, to: number, siemens: number, amps: number) => {
        put(from, from, siemens);
        put(to, to, siemens);
        put(from, to, -siemens);
        put(to, from, -siemens);
        if (from >= 0) right[from] -= amps;
        if (to >= 0) right[to] += amps;
      };
      elements.forEach((one, at) => {
        const [from, to] = ends[at];
        if (one.kind === 'R') join(from, to, 1 / one.value, 0);
        else if (one.kind === 'C') join(from, to, a * one.value, b * held[at] + c * before[at]);
        else if (one.kind === 'I') join(from, to, 0, one.wave(now));
        else if (one.kind === 'D') {
          const { IS, N, RS, TT } = one.model;
          const scale = N * THERMAL_VOLTS;
          const volts = junction[at];
          const amps = IS * (Math.exp(volts / scale) - 1);
          const siemens = (IS * Math.exp(volts / scale)) / scale + 1e-12;
          join(from, inner[at], 1 / Math.max(RS, 1e-6), 0);
          const charged = a * TT;
          join(
            inner[at],
            to,
            siemens * (1 + charged),
            amps - siemens * volts + charged * (amps - siemens * volts) + b * held[at] + c * before[at],
          );
        } else {
          const row = nodes.size + branches.indexOf(at);
          put(from, row, 1);
          put(to, row, -1);
          put(row, from, 1);
          put(row, to, -1);
          if (one.kind === 'V') right[row] = one.wave(now);
          else {
            matrix[row][row] -= a * (one as { value: number }).value;
            right[row] = b * held[at] + c * before[at];
          }
        }
      });
      const next = solved(matrix, right);
      let moved = 0;
      for (let at = 0; at < size; at += 1)
        moved = Math.max(moved, Math.abs(next[at] - x[at]) / (1 + Math.abs(next[at])));
      x.set(next);
      let isLimited = false;
      elements.forEach((one, at) => {
        if (one.kind !== 'D') return;
        const scale = one.model.N * THERMAL_VOLTS;
        const critical = scale * Math.log(scale / (Math.SQRT2 * one.model.IS));
        const wanted = (inner[at] < 0 ? 0 : x[inner[at]]) - (ends[at][1] < 0 ? 0 : x[ends[at][1]]);
        const was = junction[at];
        let volts = wanted;
        if (wanted > critical && Math.abs(wanted - was) > 2 * scale)
          volts =
            was > 0 ? was + Math.sign(wanted - was) * scale * Math.log1p(Math.abs(wanted - was) / scale) : critical;
        if (Math.abs(volts - wanted) > 1e-6 * (1 + Math.abs(wanted))) isLimited = true;
        junction[at] = volts;
      });
      if (!isLimited && moved < 1e-7 && round > 0) break;
    }
    elements.forEach((one, at) => {
      const charge =
        one.kind === 'C'
          ? one.value * across(at)
          : one.kind === 'D'
            ? one.model.TT * one.model.IS * (Math.exp(junction[at] / (one.model.N * THERMAL_VOLTS)) - 1)
            : one.kind === 'L'
              ? one.value * x[nodes.size + branches.indexOf(at)]
              : 0;
      before[at] = held[at];
      held[at] = charge;
    });
    if (now <= stop - seconds + step / 2) continue;
    const [high, low] = watched.map((name) => (name === '0' ? 0 : x[nodeAt(name)]));
    sum += high - low;
    count += 1;
  }
  return sum / count;
}

/** Gauss with pivots. */
function solved(matrix: readonly Float64Array[], right: Float64Array): Float64Array {
  const rows = matrix.map((row) => row.slice());
  const x = right.slice();
  const size = x.length;
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(rows[row][column]) > Math.abs(rows[pivot][column])) pivot = row;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    [x[column], x[pivot]] = [x[pivot], x[column]];
    for (let row = column + 1; row < size; row += 1) {
      const by = rows[row][column] / rows[column][column];
      if (by === 0) continue;
      for (let at = column; at < size; at += 1) rows[row][at] -= by * rows[column][at];
      x[row] -= by * x[column];
    }
  }
  for (let row = size - 1; row >= 0; row -= 1) {
    for (let at = row + 1; at < size; at += 1) x[row] -= rows[row][at] * x[at];
    x[row] /= rows[row][row];
  }
  return x;
}
