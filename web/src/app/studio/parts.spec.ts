import { toNextPart } from './parts';

describe('F6 in the studio', () => {
  let root: HTMLElement;
  beforeEach(() => {
    root = document.createElement('div');
    root.innerHTML = `
      <kite-line><button id="first">1</button><button id="open" aria-current="step">2</button></kite-line>
      <kite-tray><button id="tray">3</button><button>4</button></kite-tray>
      <kite-stage><canvas></canvas></kite-stage>
      <kite-sheet><button disabled>5</button><input id="sheet" /></kite-sheet>
      <kite-reel><div id="reel" tabindex="0">6</div></kite-reel>`;
    document.body.append(root);
  });
  afterEach(() => root.remove());
  const press = (back = false): string => {
    toNextPart(root, document.activeElement, back);
    return document.activeElement?.id ?? '';
  };

  it('goes from part to part, passes what cannot have the keys, and comes round', () => {
    expect([press(), press(), press(), press(), press()]).toEqual(['open', 'tray', 'sheet', 'reel', 'open']);
  });

  it('goes back as well, also from the middle of a part', () => {
    root.querySelectorAll('button')[3].focus();
    expect([press(true), press(true), press(true)]).toEqual(['open', 'reel', 'sheet']);
  });
});
