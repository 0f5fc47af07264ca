import { designFileName } from './design-file';

it.each([
  ['Flocking applicator', 'flocking-applicator.ladder.json'],
  ['  Étage 3½ / №5 ', 'etage-312-no5.ladder.json'],
  ['///', 'design.ladder.json'],
])('%s is filed as %s', (name, file) => expect(designFileName(name)).toBe(file));
