/** What is written over the stage, painted into a picture of it: dimension lines, kept measures, what is measured. */

/** Marks an element that belongs into pictures; one with text that is written on a ground of its own. */
export const INKED = { 'data-inked': '' };

/** Paints what is marked within an element, as the page shows it; `scale` is pixels of the picture to one of CSS. */
export function paintInked(context: CanvasRenderingContext2D, within: Element, scale: number): void {
  const origin = within.getBoundingClientRect();
  for (const one of within.querySelectorAll('[data-inked]')) {
    const at = one.getBoundingClientRect();
    const [x, y] = [at.x - origin.x, at.y - origin.y];
    if (one instanceof SVGSVGElement) {
      for (const shape of one.querySelectorAll<SVGGraphicsElement>('path, circle, text')) {
        const { a, b, c, d, e, f } = shape.getCTM() ?? new DOMMatrix();
        context.setTransform(scale * a, scale * b, scale * c, scale * d, scale * (x + e), scale * (y + f));
        paintShape(context, shape);
      }
      continue;
    }
    context.setTransform(scale, 0, 0, scale, 0, 0);
    context.fillStyle = getComputedStyle(one).backgroundColor;
    context.beginPath();
    context.roundRect(x, y, at.width, at.height, 2);
    context.fill();
    paintText(context, one, origin);
  }
  context.resetTransform();
}

function paintShape(context: CanvasRenderingContext2D, shape: SVGGraphicsElement): void {
  const style = getComputedStyle(shape);
  const { fill, stroke, strokeWidth, strokeDasharray, textAnchor, opacity } = style;
  context.globalAlpha = Number(opacity);
  if (shape instanceof SVGTextElement) {
    context.font = fontOf(style);
    context.textBaseline = 'alphabetic';
    context.textAlign = textAnchor === 'middle' ? 'center' : 'left';
    context.fillStyle = fill;
    context.fillText(shape.textContent, 0, Number.parseFloat(shape.getAttribute('dy') ?? '0'));
  } else {
    const path = new Path2D(shape.getAttribute('d') ?? '');
    if (shape instanceof SVGCircleElement) {
      const { cx, cy, r } = shape;
      path.arc(cx.baseVal.value, cy.baseVal.value, r.baseVal.value, 0, 2 * Math.PI);
    }
    if (fill !== 'none') {
      context.fillStyle = fill;
      context.fill(path);
    }
    if (stroke !== 'none') {
      context.strokeStyle = stroke;
      context.lineWidth = Number.parseFloat(strokeWidth);
      context.setLineDash(
        strokeDasharray === 'none' ? [] : strokeDasharray.split(/[\s,]+/).map(Number.parseFloat),
      );
      context.stroke(path);
    }
  }
  context.globalAlpha = 1;
}

/** Written out: where a font varies, the page gives no short form of it. */
const fontOf = ({ fontStyle, fontWeight, fontSize, fontFamily }: CSSStyleDeclaration) =>
  `${fontStyle} ${fontWeight} ${fontSize} ${fontFamily}`;

/** Each run of text where it stands, in its own font and ink. */
function paintText(context: CanvasRenderingContext2D, within: Element, origin: DOMRect): void {
  const texts = document.createTreeWalker(within, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  for (let node = texts.nextNode(); node; node = texts.nextNode()) {
    range.selectNodeContents(node);
    const at = range.getBoundingClientRect();
    if (!at.width) continue;
    const style = getComputedStyle(node.parentElement!);
    context.font = fontOf(style);
    context.fillStyle = style.color;
    // A space at its beginning is only seen where something stands before it: the rectangle tells.
    const text = node.textContent!.replaceAll(/\s+/g, ' ');
    context.fillText(text.trim() || text, at.x - origin.x, at.y - origin.y + at.height / 2);
  }
}
