import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import type { EditorStore } from '../saving/editor-store';

/** What every card of the chain works on. */
export type Editing = { store: EditorStore; design: Design; prediction: Prediction };
