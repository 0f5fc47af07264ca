'use client';

import { memo, useLayoutEffect, useMemo, useRef } from 'react';
import type { Prediction } from '@/core/predict/prediction';
import { fitOf, type Fit } from '@/core/quantity/margin';
import { placeAt, type Motion } from '@/core/transient/motion';
import type { ClimbLayout } from './climb-layout';
import { FIT_FILL } from './climb-parts';
import { capacitorPlace, diodePlace, nodesById, tenth } from './climb-places';
import { movingPlaces, type Moving } from './moving-places';
import type { Player } from './player';

/** How far dashes go, pixels a second where the current is greatest. */
const DASH_SPEED = 90;
const DASH = [7, 5];
/** Currents are drawn in so many thicknesses, each a path of its own in either direction. */
const THICKNESSES = [0.2, 0.4, 0.6, 0.8, 1];
const DIRECTIONS = [1, -1] as const;
const FITS = ['fits', 'close', 'over'] as const satisfies readonly Fit[];

/** Sizes of the parts, as in the steady picture. */
type Sizes = { capacitors: number[]; diodes: { half: number; tip: number }[]; fits: (typeof FITS)[number][] };

/**
 * One moment of the ladder as it moves, laid over the steady picture. All that
 * looks alike is one path, and each frame changes those few paths and nothing
 * else, which keeps long ladders fluent.
 */
export const ClimbMotion = memo(function ClimbMotion({
  prediction,
  layout,
  motion,
  player,
  negative,
}: {
  prediction: Prediction;
  layout: ClimbLayout;
  motion: Motion;
  player: Player;
  negative: boolean;
}) {
  const root = useRef<SVGGElement>(null);
  const sizes = useMemo((): Sizes => {
    const nodes = nodesById(prediction);
    return {
      capacitors: prediction.capacitors.map((part) => capacitorPlace(part, layout, nodes).size),
      diodes: prediction.diodes.map((part) => {
        const { size, cathodeIsRight } = diodePlace(part, layout, nodes);
        return { half: size / 2, tip: cathodeIsRight !== negative ? size / 2 : -size / 2 };
      }),
      fits: prediction.capacitors.map(({ margin }) => {
        const fit = fitOf(margin);
        return fit === 'unrated' ? 'fits' : fit;
      }),
    };
  }, [prediction, layout, negative]);
  useLayoutEffect(() => {
    const drawing = new MovingDrawing(root.current!, prediction, sizes);
    const draw = () => {
      const { position, playing } = player.getState();
      drawing.draw(movingPlaces(prediction, layout, motion, placeAt(motion, position)), playing);
    };
    draw();
    return player.subscribe(draw);
  }, [prediction, layout, motion, player, sizes]);

  const dot = Math.max(4.5, Math.min(9, layout.stagePixels * 0.2));
  return (
    <g ref={root} aria-hidden="true" data-climb-motion={motion.kind} pointerEvents="none" fill="none">
      <path data-of="diode-wires" stroke="var(--line)" strokeOpacity={0.55} />
      <path data-of="capacitor-wires" stroke="var(--line)" />
      {THICKNESSES.flatMap((thickness) =>
        DIRECTIONS.map((direction) => (
          <path
            key={`${thickness} ${direction}`}
            data-of={`flow ${thickness} ${direction}`}
            stroke="var(--copper)"
            strokeWidth={1.2 + 3.4 * thickness}
            strokeDasharray={DASH.join(' ')}
          />
        )),
      )}
      <path data-of="capacitors" fill="var(--sheet)" stroke="var(--line)" strokeWidth={1.2} />
      {FITS.map((fit) => (
        <path key={fit} data-of={`fill ${fit}`} fill={FIT_FILL[fit]} />
      ))}
      <path data-of="diodes-off" fill="var(--sheet)" stroke="var(--line)" strokeWidth={1.5} strokeLinejoin="round" />
      <path data-of="diodes-on" fill="var(--copper)" stroke="var(--copper)" strokeWidth={1.8} strokeLinejoin="round" />
      <path data-of="rungs" stroke="var(--climb)" strokeWidth={3} />
      <path data-of="nodes" stroke="var(--climb)" strokeWidth={dot} strokeLinecap="round" />
    </g>
  );
});

const rectangle = (x: number, y: number, width: number, height: number) =>
  `M${tenth(x)} ${tenth(y)}h${tenth(width)}v${tenth(height)}h${tenth(-width)}Z`;

/** The paths of a moving picture, and how far their dashes have gone. */
class MovingDrawing {
  private readonly paths: Map<string, SVGPathElement>;
  private readonly offsets = new Map<string, number>();
  private before = performance.now();

  constructor(
    private readonly root: SVGGElement,
    private readonly prediction: Prediction,
    private readonly sizes: Sizes,
  ) {
    this.paths = new Map([...root.querySelectorAll('path')].map((path) => [path.dataset.of!, path]));
  }

  draw(moving: Moving, playing: boolean): void {
    const now = performance.now();
    const seconds = playing ? Math.min(0.1, (now - this.before) / 1000) : 0;
    this.before = now;
    const drawn = new Map([...this.paths.keys()].map((name) => [name, '']));
    const add = (name: string, path: string) => drawn.set(name, drawn.get(name)! + path);
    const flow = (faint: string, { path, flow, direction }: Moving['diodes'][number]) => {
      const thickness = THICKNESSES.find((one) => flow <= one) ?? 1;
      add(flow > 0 ? `flow ${thickness} ${direction}` : faint, path);
    };
    moving.capacitors.forEach((part, index) => {
      const size = Math.max(3, Math.min(this.sizes.capacitors[index], 0.6 * part.room));
      const width = this.sizes.capacitors[index] * 1.6;
      flow('capacitor-wires', part);
      add('capacitors', rectangle(part.x - width / 2, part.y - size / 2, width, size));
      add(
        `fill ${this.sizes.fits[index]}`,
        rectangle(
          part.x - width / 2 + 1.2,
          part.y - size / 2 + 1.2,
          (width - 2.4) * part.fill,
          Math.max(0, size - 2.4),
        ),
      );
    });
    moving.diodes.forEach((part, index) => {
      const { half, tip } = this.sizes.diodes[index];
      flow('diode-wires', part);
      add(
        part.flow > 0 ? 'diodes-on' : 'diodes-off',
        `M${tenth(part.x - tip)} ${tenth(part.y - half)}l${2 * tip} ${half}l${-2 * tip} ${half}ZM${tenth(part.x + tip)} ${tenth(part.y - half)}v${2 * half}`,
      );
    });
    moving.nodes.forEach(({ x, y }, index) => {
      const { column } = this.prediction.nodes[index];
      if (column === 'smoothing') add('rungs', `M${x - 9} ${y}h18`);
      else if (column !== 'ground') add('nodes', `M${x} ${y}h0`);
    });
    for (const { from, to, y } of moving.beyond) if (to > from) add('rungs', `M${from} ${y}H${to}`);
    for (const [name, path] of drawn) {
      const element = this.paths.get(name)!;
      if (element.getAttribute('d') !== path) element.setAttribute('d', path);
      if (path !== '' && name.startsWith('flow')) this.moveDashes(element, name, seconds);
    }
    const conducting = this.prediction.diodes.filter((_, index) => moving.diodes[index].flow > 0).map(({ id }) => id);
    if (this.root.dataset.conducting !== conducting.join(' ')) this.root.dataset.conducting = conducting.join(' ');
  }

  private moveDashes(path: SVGPathElement, name: string, seconds: number): void {
    const [, thickness, direction] = name.split(' ').map(Number);
    const gone = (this.offsets.get(name) ?? 0) - direction * DASH_SPEED * (0.3 + 0.7 * thickness) * seconds;
    this.offsets.set(name, gone);
    path.setAttribute('stroke-dashoffset', (gone % (DASH[0] + DASH[1])).toFixed(1));
  }
}
