/** Value of one of the room's colours, as it is in the theme that is shown; canvases cannot read them themselves. */
export function colourOf(name: `--${string}`): string {
  const probe = document.createElement('span');
  probe.style.color = `var(${name})`;
  document.body.append(probe);
  const { color } = getComputedStyle(probe);
  probe.remove();
  return color;
}
