/**
 * Makes a canvas as large as it is shown, in the screen's own pixels, and draws on it in the page's.
 * @param draw `token` gives a colour of the theme.
 */
export function paintCanvas(
  canvas: HTMLCanvasElement | undefined,
  width: number,
  height: number,
  draw: (context: CanvasRenderingContext2D, token: (name: string) => string) => void,
): void {
  const context = canvas?.getContext('2d');
  if (!canvas || !context || width < 10) return;
  const density = window.devicePixelRatio || 1;
  canvas.width = width * density;
  canvas.height = height * density;
  context.setTransform(density, 0, 0, density, 0, 0);
  draw(context, themeTokens());
}

/** Colours of the theme by name, each asked for once: a style's answer takes long. */
export function themeTokens(): (name: string) => string {
  const style = getComputedStyle(document.documentElement);
  const known = new Map<string, string>();
  return (name) => {
    const value = known.get(name) ?? style.getPropertyValue(name).trim();
    known.set(name, value);
    return value;
  };
}

/** Where a pointer is on an element, pixels from its top left. */
export function placeOn(element: HTMLElement | undefined, { clientX, clientY }: MouseEvent): [x: number, y: number] {
  const { left = 0, top = 0 } = element?.getBoundingClientRect() ?? {};
  return [clientX - left, clientY - top];
}
