import { newDesign } from '../design/new-design';
import { DIODE_KINDS } from '../parts/diode-kinds';
import { predict } from '../predict/predict';
import { withUsualDiode } from './usual-diode';

it.each(DIODE_KINDS)('%s: as many in series as stand the stress', (kind) => {
  const design = newDesign('usual');
  const diode = withUsualDiode(
    { ...design, ladder: { ...design.ladder, diode: { ...design.ladder.diode, partId: 'x' } } },
    kind,
    predict(design),
  );
  expect(diode.partId).toBeNull();
  const { margins } = predict({ ...design, ladder: { ...design.ladder, diode } });
  const blocking = margins.filter(({ id }) => id === 'diodeReverseVoltage');
  expect(blocking.length).toBeGreaterThan(0);
  for (const { margin } of blocking) expect(margin).toBeGreaterThanOrEqual(0.25);
});
