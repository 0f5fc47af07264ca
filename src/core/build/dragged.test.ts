import { demoDesign } from '../../../tests/reference/demo-designs';
import { ARRANGEMENTS } from '../design/build-schema';
import { airSchema } from '../load/air/air';
import { pitchAt, withSpacing } from './dragged';
import { insulationOf } from './insulation';
import { layoutOf } from './layout';

const AIR = airSchema.parse({});

describe.each(ARRANGEMENTS)('%s', (arrangement) => {
  const demo = demoDesign('photomultiplier-bias');
  const design = { ...demo, build: { ...demo.build, arrangement, boardStages: 2 } };
  const insulation = insulationOf(design, AIR)!;
  const layout = layoutOf(design, insulation)!;
  const joints = layout.arranged.conductors.flatMap(({ kind }, at) => (kind === 'joint' ? [at] : []));

  it('a joint that is dragged stands where it is put, and what is too near then is told', () => {
    let moved = 0;
    for (const at of joints) {
      const [stands] = layout.arranged.conductors[at].from;
      for (const by of [0.02, -0.01]) {
        const pitch = pitchAt(design, insulation, layout, at, stands + by);
        if (pitch === null) continue;
        moved += 1;
        if (pitch <= 0.1e-3) continue;
        const dragged = layoutOf(withSpacing(design, { ...layout.spacing, pitch }), insulation)!;
        expect(dragged.spacing).toEqual({ ...layout.spacing, pitch });
        // Within what the rounding of the pitch makes of the last stage.
        expect(Math.abs(dragged.arranged.conductors[at].from[0] - stands - by)).toBeLessThan(0.06e-3 * 6);
      }
    }
    expect(moved).toBeGreaterThan(2);
  });

  it('where it stands already, the spacing stays; what does not follow the spacing has none', () => {
    const wider = { ...layout.spacing, pitch: layout.spacing.pitch + 0.01 };
    const moved = layoutOf(withSpacing(design, wider), insulation)!;
    for (const at of joints) {
      const [stands] = layout.arranged.conductors[at].from;
      const pitch = pitchAt(design, insulation, layout, at, stands);
      if (Math.abs(moved.arranged.conductors[at].from[0] - stands) < 1e-9) expect(pitch).toBeNull();
      else expect(Math.abs(pitch! - layout.spacing.pitch)).toBeLessThan(0.051e-3);
    }
  });

  it('a stage pushed in breaches', () => {
    const at = joints.find((one) => pitchAt(design, insulation, layout, one, 1) !== null)!;
    const pitch = pitchAt(design, insulation, layout, at, layout.arranged.conductors[at].from[0] - 10)!;
    const tight = layoutOf(withSpacing(design, { ...layout.spacing, pitch: Math.min(pitch, 1e-3) }), insulation)!;
    expect(tight.breaches.length).toBeGreaterThan(0);
  });
});
