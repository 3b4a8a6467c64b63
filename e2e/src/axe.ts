import axe from 'axe-core';
import type { Page } from 'puppeteer-core';

/** Serious and critical violations of the accessibility rules, one line each. */
export async function violations(page: Page): Promise<string[]> {
  // Evaluated by the driver, which the page's own policy does not bind.
  await page.evaluate(axe.source);
  return page.evaluate(async () => {
    // What is still fading in has colours of its own.
    const moves = document.getAnimations().filter(({ effect }) => effect?.getTiming().iterations !== Infinity);
    await Promise.all(moves.map(({ finished }) => finished.catch(() => undefined)));
    const { axe: engine } = window as unknown as { axe: typeof axe };
    const { violations: found } = await engine.run(document, { resultTypes: ['violations'] });
    return found
      .filter((v) => v.impact === 'serious' || v.impact === 'critical')
      .map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target.join(' ')} ${n.any[0]?.message ?? ''}`).join(' | ')}`);
  });
}
