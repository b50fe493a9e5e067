const STYLES = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linejoin',
  'stroke-linecap',
  'font-family',
  'font-size',
  'font-weight',
  'text-anchor',
  'opacity'
];

/** A drawing as a file of its own: what styles say is written into each of its elements. */
export function downloadSvg(drawing: SVGSVGElement, name: string): void {
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  const from = [drawing, ...drawing.querySelectorAll('*')];
  const to = [copy, ...copy.querySelectorAll('*')];
  from.forEach((element, i) => {
    const shown = getComputedStyle(element);
    const target = to[i] as SVGElement;
    if (shown.display === 'none' || target.classList.contains('screen-only')) {
      target.setAttribute('display', 'none');
      return;
    }
    for (const style of STYLES) target.style.setProperty(style, shown.getPropertyValue(style));
    target.removeAttribute('tabindex');
  });
  const box = drawing.viewBox.baseVal;
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', `${box.width}`);
  copy.setAttribute('height', `${box.height}`);
  const text = new XMLSerializer().serializeToString(copy);
  const url = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = `${name}.svg`;
  link.click();
  URL.revokeObjectURL(url);
}
