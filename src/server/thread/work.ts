import type { Design } from '@/core/design/design-schema';
import { predict } from '@/core/predict/predict';
import { figuresOfDocument } from './shelf-figures';

/** What would hold up every other request for longer than one may. */
export const work = { figures: figuresOfDocument, prediction: (design: Design) => predict(design) };
