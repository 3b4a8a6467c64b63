import type { Page } from 'puppeteer-core';

/** Text that is cut off, leaves the window, or lies on other text, one line each; what is scrolled away does not count. */
export const unreadable = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const seen: { box: DOMRect; words: string; element: Element }[] = [];
    const hides = (element: Element): boolean => {
      const { visibility, display, opacity } = getComputedStyle(element);
      return (
        visibility === 'hidden' ||
        display === 'none' ||
        Number(opacity) < 0.05 ||
        /(^| )(cdk-)?visually-hidden( |$)/.test(element.className.toString())
      );
    };
    const ancestors = (element: Element): Element[] => {
      const list: Element[] = [];
      for (let at: Element | null = element; at && at !== document.body; at = at.parentElement) list.push(at);
      return list;
    };
    const clips = (overflow: string): boolean => overflow === 'hidden' || overflow === 'clip';
    /** What cuts a box off: undefined where nothing does, null where it is not to be seen at all. */
    const cutBy = (box: DOMRect, element: Element): Element | null | undefined => {
      for (const around of ancestors(element)) {
        const { overflowX, overflowY, position } = getComputedStyle(around);
        const frame = around.getBoundingClientRect();
        if (clips(overflowY) && (box.bottom <= frame.top + 3 || box.top >= frame.bottom - 3)) return null;
        if (clips(overflowX) && (box.right > frame.right + 1.5 || box.left < frame.left - 1.5)) return around;
        if (clips(overflowY) && (box.bottom > frame.bottom + 3 || box.top < frame.top - 3)) return around;
        if (overflowY === 'auto' || overflowY === 'scroll' || position === 'fixed') return undefined;
      }
      return undefined;
    };
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    while (walker.nextNode()) {
      const text = walker.currentNode as Text;
      const element = text.parentElement;
      const words = text.data.trim().slice(0, 50);
      if (words === '' || !element || element.closest('style, script, title')) continue;
      if (ancestors(element).some(hides)) continue;
      const range = document.createRange();
      range.selectNodeContents(text);
      for (const box of range.getClientRects()) {
        if (box.width < 2 || box.height < 2) continue;
        const cut = cutBy(box, element);
        if (cut === null) continue;
        if (cut) found.push(`"${words}" is cut off by ${cut.tagName.toLowerCase()}.${cut.className.toString()}`);
        if (box.right > innerWidth + 1 || box.left < -1) found.push(`"${words}" leaves the window`);
        const top = document.elementFromPoint((box.left + box.right) / 2, (box.top + box.bottom) / 2);
        if (top && (element.contains(top) || top.contains(element))) seen.push({ box, words, element });
      }
    }
    seen.forEach((a, i) => {
      for (const b of seen.slice(i + 1)) {
        if (a.element === b.element || a.element.contains(b.element) || b.element.contains(a.element)) continue;
        const width = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
        const height = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
        if (width > 3 && height > 4) found.push(`"${a.words}" and "${b.words}" lie on each other`);
      }
    });
    return [...new Set(found)];
  });
