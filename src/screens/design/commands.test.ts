import { newDesign } from '@/core/design/new-design';
import { driverOfKind } from '@/core/drive/driver-kinds';
import type { Design } from '@/core/design/design-schema';
import { driveOf } from '@/core/operating/ladder-of-design';
import type { Counting } from '@/core/quantity/counting';
import { editingCommands, linkBeside } from './commands';
import { createEditorStore } from './saving/editor-store';

const opened = (change: (design: Design) => Design = (design) => design, counting: Counting = 'two-of-each') => {
  const design = change(newDesign('Commanded'));
  const store = createEditorStore({ id: 'x', design, revision: 1, savedAt: '2026-01-01T00:00:00Z', archivedAt: null });
  const faults: string[] = [];
  const commands = editingCommands(
    store,
    (path, value) => {
      const fault = store.getState().edit(path, value);
      if (fault) faults.push(fault);
    },
    counting,
  );
  const run = (name: string) => commands.find((command) => command.name === name)!.run();
  return { store, run, faults, stages: () => store.getState().design.ladder.stages };
};
const withTopology = (topology: Design['ladder']['topology']) => (design: Design) => ({
  ...design,
  ladder: { ...design.ladder, topology },
});

it('steps by one capacitor and one diode, and by two, where a stage is called that', () => {
  const { run, stages } = opened(undefined, 'one-of-each');
  run('Two stages more');
  run('One stage more');
  expect(stages()).toBe(3.5);
});

it('steps by stages and by halves, and undoes each', () => {
  const { run, stages } = opened();
  run('One stage more');
  run('Half a stage more');
  expect(stages()).toBe(3.5);
  run('One stage fewer');
  expect(stages()).toBe(2.5);
});

it('steps by whole stages where the topology has no halves, and not at all where it has one form', () => {
  const fullWave = opened(withTopology('full-wave'));
  fullWave.run('Half a stage more');
  expect(fullWave.stages()).toBe(3);
  const doubler = opened(withTopology('bridge-doubler'));
  doubler.run('One stage more');
  expect(doubler.stages()).toBe(2);
});

it('says what would be right below the least stage, and keeps the count', () => {
  const { run, stages, faults } = opened();
  for (let step = 0; step < 6; step += 1) run('One stage fewer');
  expect(stages()).toBe(1);
  expect(faults[0]).toMatch(/0\.5 to 50/);
});

it('goes round the links of the chain both ways, those alone that the driver has', () => {
  const { store } = opened();
  const links = ['driver', 'ladder', 'output', 'divider', 'farEnd'] as const;
  expect(linkBeside(store, '', 1)).toBe(links[0]);
  expect(linkBeside(store, '', -1)).toBe(links[4]);
  links.forEach((link, at) => {
    expect(linkBeside(store, link, 1)).toBe(links[(at + 1) % 5]);
    expect(linkBeside(store, link, -1)).toBe(links[(at + 4) % 5]);
  });
  const driven = opened((design) => ({ ...design, ...driverOfKind('flyback', design, driveOf(design)) }) as Design);
  expect(linkBeside(driven.store, '', 1)).toBe('supply');
  expect(linkBeside(driven.store, 'driver', 1)).toBe('transformer');
});
