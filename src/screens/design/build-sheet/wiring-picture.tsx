import {
  SYMBOL_HIGH,
  type BoxSymbol,
  type Place,
  type WiredBox,
  type WiredPart,
  type Wiring,
} from '@/core/build/wiring';

const MARGIN = 14;
const LETTERS = 4.2;
/** Of a symbol along its part, and across. */
const SIZE = { capacitor: 2.4, diode: 7, resistor: 13, choke: 13, load: 15, switch: 11, fuse: 12 } as const;

/** About their middles, 9 high at most (IEC 60617, from memory). */
const BOX_SYMBOLS: Record<BoxSymbol, string> = {
  battery: 'M-9 0 H-3.5 M-3.5 -4 V4 M-1.5 -2 V2 M1.5 -4 V4 M3.5 -2 V2 M3.5 0 H9',
  direct: 'M-5 -1.5 H5 M-5 1.5 h2.5 m1.25 0 h2.5 m1.25 0 h2.5',
  alternating: 'M-5 0 c1.7 -4.5 3.3 -4.5 5 0 s3.3 4.5 5 0',
  rectified: 'M-9 0 c1 -3 2.5 -3 3.5 0 s2.5 3 3.5 0 M0 3.5 L2 -3.5 M4 -1 h6 M4 1 h1.5 m0.75 0 h1.5 m0.75 0 h1.5',
  transformer:
    'M-9 -4 H-3 a1.35 1.35 0 0 1 0 2.7 a1.35 1.35 0 0 1 0 2.7 a1.35 1.35 0 0 1 0 2.7 H-9 M9 -4 H3 a1.35 1.35 0 0 0 0 2.7 a1.35 1.35 0 0 0 0 2.7 a1.35 1.35 0 0 0 0 2.7 H9 M-0.5 -4.2 V4.2 M0.5 -4.2 V4.2',
};

/** The wiring of a whole supply, with symbols after IEC 60617 (from memory). */
export function WiringPicture({ wiring }: { wiring: Wiring }) {
  const { parts, boxes, wires, dots, grounds, isEarthed, notes, ends, low, high } = wiring;
  const [left, top] = [low[0] - MARGIN, low[1] - MARGIN];
  const [wide, tall] = [high[0] - low[0] + 2 * MARGIN, high[1] - low[1] + 2 * MARGIN];
  return (
    <div className="mt-2 overflow-x-auto print:overflow-visible">
      <svg
        viewBox={`${left} ${top} ${wide} ${tall}`}
        role="img"
        aria-label="Wiring diagram"
        data-wiring
        className="w-full print:min-w-0!"
        style={{ minWidth: `${wide / 3}mm`, maxWidth: `${wide}mm`, maxHeight: '80vh' }}
        fontSize={LETTERS}
        strokeWidth={0.6}
      >
        {wires.map(([from, to], at) => (
          <line key={at} x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} className="stroke-ink" />
        ))}
        {parts.map((part) => (
          <Part key={part.id} part={part} />
        ))}
        {dots.map(({ at: [x, y], name, beside }, at) => (
          <g key={at}>
            <circle cx={x} cy={y} r={1.1} className="fill-ink" />
            {name ? (
              <text
                x={beside === 'left' ? x - 2.5 : x + 1.8}
                y={beside === 'left' ? y + LETTERS / 3 : beside === 'under' ? y + LETTERS + 1 : y - 2}
                textAnchor={beside === 'left' ? 'end' : 'start'}
                className="fill-copper"
              >
                {name}
              </text>
            ) : null}
          </g>
        ))}
        {grounds.map((place, at) => (
          <Ground key={at} place={place} isEarthed={isEarthed} />
        ))}
        {notes.map((note, line) => (
          <text key={line} x={low[0]} y={high[1] + MARGIN - 4 - (notes.length - 1 - line) * 6} className="fill-ink">
            {note}
          </text>
        ))}
        {ends.map(({ at: [x, y], text }, at) => (
          <g key={at}>
            <circle cx={x} cy={y} r={1.1} className="fill-paper stroke-ink" />
            <text x={x + 2.5} y={y + LETTERS / 3} className="fill-soft">
              {text}
            </text>
          </g>
        ))}
        {boxes.map((box) => (
          <Box key={box.id} box={box} />
        ))}
      </svg>
    </div>
  );
}

/** Earth, or a common conductor that is not. */
function Ground({ place: [x, y], isEarthed }: { place: Place; isEarthed: boolean }) {
  return isEarthed ? (
    <path d={`M${x - 4} ${y} h8 M${x - 2.5} ${y + 1.6} h5 M${x - 1} ${y + 3.2} h2`} className="stroke-ink" />
  ) : (
    <path d={`M${x - 3.5} ${y} h7 l-3.5 4 z`} className="fill-sheet stroke-ink" />
  );
}

function Box({ box: { at, wide, high, symbol, name, lines } }: { box: WiredBox }) {
  /** The middle of the words, below the symbol where there is one. */
  const middle = at[1] + (symbol ? SYMBOL_HIGH / 2 : 0);
  return (
    <g>
      <rect x={at[0] - wide / 2} y={at[1] - high / 2} width={wide} height={high} className="fill-sheet stroke-ink" />
      {symbol ? (
        <path
          d={BOX_SYMBOLS[symbol]}
          transform={`translate(${at[0]} ${at[1] - high / 2 + SYMBOL_HIGH / 2 + 2.5})`}
          className="fill-none stroke-ink"
        />
      ) : null}
      {[name, ...lines].map((text, line, all) => (
        <text
          key={line}
          x={at[0]}
          y={middle + LETTERS / 3 + (line - (all.length - 1) / 2) * 1.3 * LETTERS}
          textAnchor="middle"
          className={line === 0 ? 'fill-ink' : 'fill-soft'}
        >
          {text}
        </text>
      ))}
    </g>
  );
}

function Part({ part: { id, kind, isNamedUnder, from, to, name, value } }: { part: WiredPart }) {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const turn = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
  const half = SIZE[kind] / 2;
  const [x, y] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
  const isUpright = Math.abs(to[0] - from[0]) < Math.abs(to[1] - from[1]) / 2;
  /** Below the middle, of the name and then the value. */
  const lineAt = (line: number): number => {
    if (kind === 'diode') return isUpright ? LETTERS / 3 : 4.8;
    if (isUpright) return (line - 0.5) * 1.2 * LETTERS + LETTERS / 3;
    return isNamedUnder ? 9.2 + line * 1.15 * LETTERS : -6.2 - (1 - line) * 1.15 * LETTERS;
  };
  return (
    <g data-wired={id}>
      <g transform={`translate(${x} ${y}) rotate(${turn})`}>
        <path d={`M${-length / 2} 0 H${-half} M${half} 0 H${length / 2}`} className="stroke-ink" />
        <Symbol kind={kind} half={half} />
      </g>
      {(kind === 'diode' ? [`${name}${value ? `, ${value}` : ''}`] : [name, value]).map((text, line) => (
        <text
          key={line}
          x={isUpright || kind === 'diode' ? x + (kind === 'load' ? 6 : 4.5) : x}
          y={y + lineAt(line)}
          textAnchor={isUpright || kind === 'diode' ? 'start' : 'middle'}
          className={line === 0 ? 'fill-ink' : 'fill-soft'}
        >
          {text}
        </text>
      ))}
    </g>
  );
}

function Symbol({ kind, half }: { kind: WiredPart['kind']; half: number }) {
  switch (kind) {
    case 'capacitor':
      return <path d={`M${-half} -4.5 V4.5 M${half} -4.5 V4.5`} className="stroke-ink" strokeWidth={0.9} />;
    case 'diode':
      return (
        <path d={`M${-half} -3.2 L${half} 0 L${-half} 3.2 Z M${half} -3.2 V3.2`} className="fill-sheet stroke-ink" />
      );
    case 'choke':
      return (
        <path
          d={`M${-half} 0 ${Array.from({ length: 4 }, () => `a${half / 4} ${half / 4} 0 0 1 ${half / 2} 0`).join(' ')}`}
          className="fill-none stroke-ink"
        />
      );
    case 'resistor':
      return <rect x={-half} y={-2.4} width={2 * half} height={4.8} className="fill-sheet stroke-ink" />;
    case 'switch':
      return <path d={`M${-half} 0 L${half - 1} -4.5`} className="stroke-ink" />;
    case 'fuse':
      return <path d={`M${-half} -2 H${half} V2 H${-half} Z M${-half} 0 H${half}`} className="fill-sheet stroke-ink" />;
    case 'load':
      return <rect x={-half} y={-4} width={2 * half} height={8} rx={1} className="fill-tint stroke-ink" />;
  }
}
