import type { Design } from '@/core/design/design-schema';
import { writeDesignText } from '@/core/design/read-design';

/** The name a design's file is offered under. */
export function designFileName(name: string): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .toLowerCase()
    .replace(/[\s_]+/g, '-')
    .slice(0, 60);
  return `${plain || 'design'}.ladder.json`;
}

/** Hands a design to the user as a file. */
export function downloadDesign(design: Design): void {
  const url = URL.createObjectURL(new Blob([writeDesignText(design)], { type: 'application/json' }));
  const anchor = document.createElement('a');
  anchor.href = url;
  anchor.download = designFileName(design.name);
  anchor.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
