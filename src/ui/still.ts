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
export class PlainColours {
  private readonly known = new Map<string, { plain: string; opacity: number }>();
  private readonly brush = Object.assign(document.createElement('canvas'), { width: 1, height: 1 }).getContext('2d', {
    willReadFrequently: true,
  })!;

  /** A colour without what it lets through, and how much that leaves of it, from 0 to 1. */
  parts(colour: string): { plain: string; opacity: number } {
    const found = this.known.get(colour);
    if (found !== undefined) return found;
    this.brush.clearRect(0, 0, 1, 1);
    this.brush.fillStyle = colour;
    this.brush.fillRect(0, 0, 1, 1);
    const [red, green, blue, alpha] = this.brush.getImageData(0, 0, 1, 1).data;
    const parts = { plain: `rgb(${red}, ${green}, ${blue})`, opacity: alpha / 255 };
    this.known.set(colour, parts);
    return parts;
  }

  /** Writes what an element is painted with as plain colours, what they let through beside them. */
  spread(element: Element): void {
    for (const paint of ['fill', 'stroke'] as const) {
      const colour = element.getAttribute(paint);
      if (!colour || colour === 'none' || colour.startsWith('url')) continue;
      const { plain, opacity } = this.parts(colour);
      element.setAttribute(paint, opacity === 0 ? 'none' : plain);
      if (opacity > 0 && opacity < 1)
        element.setAttribute(
          `${paint}-opacity`,
          String(opacity * Number(element.getAttribute(`${paint}-opacity`) ?? 1)),
        );
    }
  }
}

/** A copy of an element with all that it looks like in its own attributes; null for what is not shown. */
export function standalone(element: Element, colours: PlainColours): Element | null {
  const style = getComputedStyle(element);
  if (style.display === 'none' || style.visibility === 'hidden') return null;
  const copy = element.cloneNode(false) as Element;
  for (const { name } of [...copy.attributes]) if (OF_THE_PAGE.test(name)) copy.removeAttribute(name);
  if (element.tagName !== 'svg' && element.tagName !== 'title')
    for (const name of STYLES) {
      const value = style.getPropertyValue(name);
      if (value === '' || (name === 'transform' && value === 'none')) continue;
      copy.setAttribute(name, value);
    }
  colours.spread(copy);
  for (const child of element.childNodes) {
    const inside = child instanceof Element ? standalone(child, colours) : child.cloneNode();
    if (inside) copy.append(inside);
  }
  return copy;
}

/** A picture as it can be taken away, and how large it is shown, px. */
export type Still = { svg: string; width: number; height: number };

/** CSS pixels of a millimetre (CSS Values and Units, from memory). */
const PIXELS_PER_MILLIMETRE = 96 / 25.4;

/**
 * A drawing on screen as an SVG document of its own, at its true size.
 *
 * @param drawing whose units are millimetres
 * @param title what it shows, for whoever opens the file
 */
export function stillOfDrawing(drawing: SVGSVGElement, title: string): Still {
  const copy = standalone(drawing, new PlainColours())!;
  const name = document.createElementNS(drawing.namespaceURI!, 'title');
  name.textContent = title;
  copy.prepend(name);
  const { width, height } = drawing.viewBox.baseVal;
  copy.setAttribute('width', `${width}mm`);
  copy.setAttribute('height', `${height}mm`);
  const svg = new XMLSerializer().serializeToString(copy);
  return { svg, width: width * PIXELS_PER_MILLIMETRE, height: height * PIXELS_PER_MILLIMETRE };
}

/** How much larger than on screen a picture of points is. */
export const SCALE = 2;
/** What browsers draw at most, with room. */
const MOST_PIXELS_A_SIDE = 8000;

/** The same as a picture of points. */
export async function pngOf({ svg, width, height }: Still): Promise<Blob> {
  const picture = new Image();
  picture.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await picture.decode();
  const scale = Math.min(SCALE, MOST_PIXELS_A_SIDE / Math.max(width, height));
  const canvas = Object.assign(document.createElement('canvas'), { width: scale * width, height: scale * height });
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return blobOf(canvas);
}

/** What is drawn on a canvas, as PNG. */
export const blobOf = (canvas: HTMLCanvasElement): Promise<Blob> =>
  new Promise((resolve, reject) =>
    canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.'))), 'image/png'),
  );
