'use client';

import { useEffect } from 'react';
import type { Design } from '@/core/design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '@/core/predict/predict';

/** The page has been drawn by then, ms. */
const AFTER_MILLISECONDS = 400;
/** Code that has run once is still slow. */
const TIMES = 3;

/**
 * Predicts a design once it stands, for nothing but to have done so: its
 * prediction comes with the page, and code that has not run yet would be compiled
 * on the first keystroke.
 */
export function useWarmPrediction(design: Design): void {
  useEffect(() => {
    let left = TIMES;
    const warm = () => {
      predict(design, WITHOUT_OPTIMUM);
      left -= 1;
      if (left > 0) timer = setTimeout(warm, AFTER_MILLISECONDS);
    };
    let timer = setTimeout(warm, AFTER_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [design]);
}
