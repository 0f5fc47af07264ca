declare module 'svgcanvas' {
  /** A canvas whose drawing is kept as SVG. */
  export class Element {
    constructor(options: { width: number; height: number });
    width: number;
    height: number;
    getContext(type: '2d'): CanvasRenderingContext2D & { getSvg(): SVGSVGElement };
  }
}
