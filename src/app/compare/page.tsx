import type { Metadata } from 'next';
import { CompareScreen } from '@/screens/compare/compare-screen';
import { latestNames } from '@/server/shelf';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Compare' };

/** Designs offered to compare: a list of thousands helps nobody. */
const MOST_NAMES = 200;

export default async function ComparePage() {
  return <CompareScreen designs={await latestNames(MOST_NAMES)} />;
}
