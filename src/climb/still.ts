/** What of an element's computed style its picture needs as attributes. */
const STYLES = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-dasharray',
  'stroke-dashoffset',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'paint-order',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'transform',
] as const;

/** Attributes that only the page has a use for. */
const OF_THE_PAGE = /^(class|style|role|tabindex|data-.*|aria-.*)$/;

/** Any CSS colour as red, green and blue, which every program that reads SVG knows. */
class PlainColours {
  private readonly known = new Map<string, string>();
  private readonly brush = Object.assign(document.createElement('canvas'), { width: 1, height: 1 }).getContext('2d', {
    willReadFrequently: true,
  })!;

  of(colour: string): string {
    if (colour === 'none' || colour.startsWith('rgb')) return colour;
    const found = this.known.get(colour);
    if (found !== undefined) return found;
    this.brush.clearRect(0, 0, 1, 1);
    this.brush.fillStyle = colour;
    this.brush.fillRect(0, 0, 1, 1);
    const [red, green, blue] = this.brush.getImageData(0, 0, 1, 1).data;
    const plain = `rgb(${red}, ${green}, ${blue})`;
    this.known.set(colour, plain);
    return plain;
  }
}

/** A copy of an element with all that it looks like in its own attributes; null for what is not shown. */
function standalone(element: Element, colours: PlainColours): Element | null {
  const style = getComputedStyle(element);
  if (style.display === 'none' || style.visibility === 'hidden') return null;
  const copy = element.cloneNode(false) as Element;
  for (const { name } of [...copy.attributes]) if (OF_THE_PAGE.test(name)) copy.removeAttribute(name);
  if (element.tagName !== 'svg' && element.tagName !== 'title')
    for (const name of STYLES) {
      const value = style.getPropertyValue(name);
      if (value === '' || (name === 'transform' && value === 'none')) continue;
      copy.setAttribute(name, name === 'fill' || name === 'stroke' ? colours.of(value) : value);
    }
  for (const child of element.childNodes) {
    const inside = child instanceof Element ? standalone(child, colours) : child.cloneNode();
    if (inside) copy.append(inside);
  }
  return copy;
}

/**
 * The Climb as it stands on screen, motion and all, as an SVG document of its own.
 *
 * @param title what it shows, for whoever opens the file
 * @returns null while no Climb is on screen
 */
export function stillOfClimb(title: string): { svg: string; width: number; height: number } | null {
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
  paper.setAttribute('fill', colours.of(getComputedStyle(document.body).backgroundColor));
  whole.append(name, paper);
  for (const layer of climb.querySelectorAll('svg')) {
    const copy = standalone(layer, colours);
    if (copy) whole.append(copy);
  }
  return { svg: new XMLSerializer().serializeToString(whole), width, height };
}

/**
 * Any picture on screen as an SVG document of its own, in its own units.
 *
 * @param title what it shows, for whoever opens the file
 */
export function stillOfSvg(picture: SVGSVGElement, title: string): string {
  const copy = standalone(picture, new PlainColours())!;
  const name = document.createElementNS(picture.namespaceURI!, 'title');
  name.textContent = title;
  copy.prepend(name);
  const { width, height } = picture.viewBox.baseVal;
  // A unit of it is a millimetre.
  copy.setAttribute('width', `${width}mm`);
  copy.setAttribute('height', `${height}mm`);
  return new XMLSerializer().serializeToString(copy);
}

/** How much larger than on screen a picture of points is. */
const SCALE = 2;

/** The same as a picture of points. */
export async function pngOf({ svg, width, height }: { svg: string; width: number; height: number }): Promise<Blob> {
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await picture.decode();
  const canvas = Object.assign(document.createElement('canvas'), { width: SCALE * width, height: SCALE * height });
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.'))), 'image/png'),
  );
}
