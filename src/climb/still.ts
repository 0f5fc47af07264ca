import { PlainColours, standalone, type Still } from '@/ui/still';

/**
 * The Climb as it stands on screen, motion and all, as an SVG document of its own.
 *
 * @param title what it shows, for whoever opens the file
 * @returns null while no Climb is on screen
 */
export function stillOfClimb(title: string): Still | null {
  const climb = document.querySelector('[data-climb]');
  if (!climb) return null;
  const { width, height } = climb.getBoundingClientRect();
  const colours = new PlainColours();
  const whole = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
  whole.setAttribute('width', String(width));
  whole.setAttribute('height', String(height));
  whole.setAttribute('viewBox', `0 0 ${width} ${height}`);
  const name = document.createElementNS(whole.namespaceURI!, 'title');
  name.textContent = title;
  const paper = document.createElementNS(whole.namespaceURI!, 'rect');
  paper.setAttribute('width', '100%');
  paper.setAttribute('height', '100%');
  paper.setAttribute('fill', colours.parts(getComputedStyle(document.body).backgroundColor).plain);
  whole.append(name, paper);
  for (const layer of climb.querySelectorAll('svg')) {
    const copy = standalone(layer, colours);
    if (copy) whole.append(copy);
  }
  return { svg: new XMLSerializer().serializeToString(whole), width, height };
}
