/** The theme's colours for canvases, read where they are drawn. */
export function inkOf(element: Element): (token: string) => string {
  const style = getComputedStyle(element);
  return (token) => style.getPropertyValue(token).trim();
}
