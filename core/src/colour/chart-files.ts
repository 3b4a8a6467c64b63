import type { BadLine, Chart, ChartThread } from './charts.js';
import { cellsOf, csvLine } from './csv.js';
import { fromHex, toHex } from './srgb.js';
import { threadFault } from './chart-schema.js';

/** Threads of a file that were good, and the lines that were not. */
export interface ChartFile {
  /** Name the file gives itself, if it does. */
  readonly name?: string;
  readonly threads: readonly ChartThread[];
  readonly bad: readonly BadLine[];
}

/** Reads a thread chart, CSV or GIMP palette, told apart by its first line. */
export function parseChartFile(text: string): ChartFile {
  const clean = text.replace(/^\uFEFF/, '');
  return /^\s*GIMP Palette/i.test(clean) ? parsePalette(clean) : parseChart(clean);
}

/** Collects threads and what is wrong with lines; a code may stand only once. */
function collector(): {
  add: (line: number, thread: ChartThread) => void;
  report: (line: number, message: string) => void;
  threads: ChartThread[];
  bad: BadLine[];
} {
  const threads: ChartThread[] = [];
  const bad: BadLine[] = [];
  const codes = new Map<string, number>();
  const report = (line: number, message: string): void => void bad.push({ line, message });
  return {
    threads,
    bad,
    report,
    add: (line, thread) => {
      const fault = threadFault(thread);
      const first = codes.get(thread.code);
      if (fault) report(line, fault);
      else if (first !== undefined) report(line, `the code "${thread.code}" was used in line ${first} already`);
      else {
        codes.set(thread.code, line);
        threads.push(thread);
      }
    },
  };
}

/** Reads `code,name,hex,weight,finish`; good lines are kept, bad ones are listed. */
export function parseChart(text: string): ChartFile {
  const { add, threads, bad } = collector();
  text.split(/\r?\n/).forEach((raw, index) => {
    const line = raw.trim();
    if (line === '' || line.startsWith('#') || (index === 0 && /^"?code"?\s*,/i.test(line))) return;
    const [code = '', name, hex = '', weight, finish] = cellsOf(line);
    add(index + 1, {
      code,
      name: name || code,
      hex: hex.toLowerCase(),
      weight: weight ? Number(weight) : 40,
      finish: finish || 'plain',
    });
  });
  return { threads, bad };
}

/** Reads a GIMP palette: red, green, blue, and a name that may start with a code and a tab. */
export function parsePalette(text: string): ChartFile {
  const { add, report, threads, bad } = collector();
  let title: string | undefined;
  text.split(/\r?\n/).forEach((raw, index) => {
    const line = raw.trim();
    if (index === 0 || line === '' || line.startsWith('#') || /^columns\s*:/i.test(line)) return;
    const named = /^name\s*:\s*(.*)$/i.exec(line);
    if (named) {
      title = named[1].trim() || undefined;
      return;
    }
    const match = /^(-?\d+)\s+(-?\d+)\s+(-?\d+)(?:\s+(.*))?$/.exec(line);
    if (!match) return report(index + 1, `"${line.slice(0, 40)}" is not three levels and a name`);
    const levels = match.slice(1, 4).map(Number);
    if (levels.some((v) => v < 0 || v > 255)) {
      return report(index + 1, `levels must be 0 to 255, got ${levels.join(' ')}`);
    }
    const [first, second] = (match[4] ?? '').split('\t').map((part) => part.trim());
    const code = second ? first : `P-${String(threads.length + 1).padStart(3, '0')}`;
    const hex = toHex({ r: levels[0], g: levels[1], b: levels[2] });
    add(index + 1, { code, name: second || first || code, hex, weight: 40, finish: 'plain' });
  });
  return { name: title, threads, bad };
}

/** A chart as CSV; `parseChart` reads it back. */
export function writeChart(chart: Pick<Chart, 'threads'>): string {
  const rows = chart.threads.map((t) => csvLine([t.code, t.name, t.hex, t.weight, t.finish]));
  return ['code,name,hex,weight,finish', ...rows, ''].join('\n');
}

/** A chart as a GIMP palette; weight and finish are left out, the format has no room for them. */
export function writePalette(chart: Pick<Chart, 'name' | 'threads'>): string {
  const rows = chart.threads.map((t) => {
    const { r, g, b } = fromHex(t.hex);
    return `${[r, g, b].map((v) => String(v).padStart(3)).join(' ')}\t${t.code}\t${t.name}`;
  });
  return ['GIMP Palette', `Name: ${chart.name}`, 'Columns: 8', '#', ...rows, ''].join('\n');
}
