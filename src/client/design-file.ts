import type { Design } from '@/core/design/design-schema';
import { writeDesignText } from '@/core/design/read-design';

/** The name a file about a design is offered under. */
export function designFileName(name: string, ending = 'ladder.json'): string {
  const plain = name
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .toLowerCase()
    .replace(/[\s_]+/g, '-')
    .slice(0, 60);
  return `${plain || 'design'}.${ending}`;
}

/** Hands a design to the user as a file. */
export function downloadDesign(design: Design): void {
  downloadText(designFileName(design.name), 'application/json', writeDesignText(design));
}

/** Hands a text to the user as a file. */
export function downloadText(fileName: string, type: string, text: string): void {
  downloadBlob(fileName, new Blob([text], { type }));
}

/** Hands anything to the user as a file. */
export function downloadBlob(fileName: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const anchor = document.createElement('a');
  anchor.href = url;
  anchor.download = fileName;
  anchor.click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** Hands pictures of something about a design to the user, each under the name of what it shows. */
export const pictureFile =
  (designName: string, what: string) =>
  (ending: string, picture: Blob): void =>
    downloadBlob(designFileName(designName, `${what}.${ending}`), picture);
