import { format, isToday } from 'date-fns';
import { designDocumentSchema } from '@/core/design/design-messages';
import { differences } from '@/core/design/differences';
import { partSchema } from '@/core/parts/part-schema';
import * as z from '@/core/zod';
import { keepingOf, type Left } from './keeping';

const designSchema = z.strictObject({
  designId: z.string(),
  /** When it was last typed at. */
  at: z.string(),
  /** What it was made from. */
  base: z.strictObject({ revision: z.number().int().gte(1), design: designDocumentSchema }),
  design: designDocumentSchema,
});

const drawerSchema = z.strictObject({
  at: z.string(),
  /** Changes of the drawer in their order. */
  steps: z
    .array(
      z.strictObject({
        id: z.uuid(),
        what: z.string(),
        from: z.array(partSchema),
        to: z.array(partSchema),
        unread: z.array(z.string()),
      }),
    )
    .min(1),
});

/** What was typed into a design and is not known to be saved. */
export type UnsavedDesign = z.output<typeof designSchema>;
/** Changes of the drawer that are not known to be saved. */
export type UnsavedDrawer = z.output<typeof drawerSchema>;

export const unsavedDesigns = keepingOf('eager-ladder-unsaved', designSchema);
export const unsavedDrawer = keepingOf('eager-ladder-unsaved-drawer', drawerSchema);

function changesFrom(count: number, at: string): string {
  const when = new Date(at);
  return `${count} ${count === 1 ? 'change' : 'changes'} from ${format(when, isToday(when) ? 'HH:mm' : 'd MMM yyyy, HH:mm')}`;
}

/** How many fields were changed. */
export const changesIn = ({ base, design }: UnsavedDesign): number => differences(base.design, design).length;

/** "3 changes from 14:05". */
export const designLeftInWords = (left: Left<UnsavedDesign>): string => changesFrom(changesIn(left), left.at);
export const drawerLeftInWords = (left: Left<UnsavedDrawer>): string => changesFrom(left.steps.length, left.at);
