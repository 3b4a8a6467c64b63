/** A page of the guide: one job, from the picture to the machine. */
export interface GuideEntry {
  /** Name of its file, and of its address. */
  readonly id: string;
  readonly title: string;
}

/** All pages, the most usual job first. Their texts are the files of docs/guide. */
export const GUIDE_PAGES: readonly GuideEntry[] = [
  { id: 'patch-from-a-logo', title: 'A patch from a logo, with a border' },
  { id: 'photograph-in-thread', title: 'A photograph in thread' },
  { id: 'portrait-on-a-dark-bag', title: 'A portrait in one light thread on a dark bag' },
  { id: 'counted-cross', title: 'Counted cross, with a chart to print' },
  { id: 'vector-artwork', title: 'Vector artwork, as it was drawn' },
  { id: 'gradient-word', title: 'A word with one gradient over it' },
  { id: 'mend-after-a-test', title: 'Mending a design after a test' },
  { id: 'fabric-from-a-test-card', title: 'A fabric of your own, from a test card' },
];

/** What somebody is at. */
export interface At {
  readonly knot: string;
  /** How the open picture is sewn. */
  readonly method: string | undefined;
  /** Whether its pieces are shapes of vector artwork, and whether one of them has a gradient. */
  readonly vector: boolean;
  readonly gradient: boolean;
}

const BY_METHOD: Readonly<Record<string, string>> = {
  painting: 'photograph-in-thread',
  inks: 'photograph-in-thread',
  rows: 'portrait-on-a-dark-bag',
  cross: 'counted-cross',
};

/** The page that fits best to what somebody is at. */
export function pageFor({ knot, method, vector, gradient }: At): GuideEntry {
  const id =
    knot === 'tidy' || knot === 'sew'
      ? 'mend-after-a-test'
      : (BY_METHOD[method ?? ''] ??
        (gradient && knot !== 'picture' ? 'gradient-word' : vector ? 'vector-artwork' : 'patch-from-a-logo'));
  return GUIDE_PAGES.find((page) => page.id === id) ?? GUIDE_PAGES[0];
}
