import type { DrawnPath } from '@open-kite/core';
import type { DrawTool } from './draw-acts';
import { DrawEditor, type DrawView } from './draw-editor';

describe('DrawEditor', () => {
  let host: HTMLDivElement;
  let editor: DrawEditor;
  let drawn: DrawnPath[][];
  let reshaped: DrawnPath[][];
  let pointed: [number, number][];

  beforeEach(() => {
    host = document.createElement('div');
    host.style.cssText = 'position:fixed;left:0;top:0;width:400px;height:300px';
    document.body.append(host);
    [drawn, reshaped, pointed] = [[], [], []];
    editor = new DrawEditor(host, {
      drawn: (paths) => drawn.push(paths),
      reshaped: (paths) => reshaped.push(paths),
      pointed: (u, v) => pointed.push([u, v]),
    });
  });

  afterEach(() => {
    editor.close();
    host.remove();
  });

  const view = (tool: DrawTool, more: Partial<DrawView> = {}): DrawView => ({
    width: 400,
    height: 300,
    tool,
    paths: [],
    ends: [],
    toStage: (u, v) => ({ x: u * 400, y: v * 300 }),
    toSource: (x, y) => ({ u: x / 400, v: y / 300 }),
    ...more,
  });
  const fire = (type: string, x: number, y: number): void => {
    const target = host.querySelector('.konvajs-content') ?? host;
    target.dispatchEvent(
      new PointerEvent(type, { clientX: x, clientY: y, button: 0, bubbles: true, pointerId: 1, isPrimary: true }),
    );
  };
  const click = (x: number, y: number): void => {
    fire('pointermove', x, y);
    fire('pointerdown', x, y);
    fire('pointerup', x, y);
  };

  it('closes a path on its first point', () => {
    editor.update(view({ kind: 'points', role: 'piece' }));
    for (const [x, y] of [
      [100, 60],
      [200, 60],
      [200, 150],
      [102, 62],
    ])
      click(x, y);
    expect(drawn.length).toBe(1);
    expect(drawn[0][0].closed).toBeTrue();
    expect(drawn[0][0].nodes.map(([u, v]) => [u, v])).toEqual([
      [0.25, 0.2],
      [0.5, 0.2],
      [0.5, 0.5],
    ]);
  });

  it('ends a line, takes points back, and snaps to the ends of others', () => {
    editor.update(view({ kind: 'points', role: 'piece' }, { ends: [{ x: 40, y: 30 }] }));
    click(45, 35);
    click(200, 60);
    click(300, 90);
    expect(editor.removePoint()).toBeTrue();
    editor.finish();
    expect(drawn[0][0]).toEqual({
      closed: false,
      nodes: [
        [0.1, 0.1, 0, 0, 0, 0],
        [0.5, 0.2, 0, 0, 0, 0],
      ],
    });
  });

  it('ends a line by a double click, but not by two quick clicks at different places', () => {
    editor.update(view({ kind: 'points', role: 'piece' }));
    click(100, 60);
    click(200, 60);
    click(300, 90);
    expect(drawn).toEqual([]);
    click(300, 90);
    expect(drawn.length).toBe(1);
    expect(drawn[0][0].nodes.length).toBe(3);
  });

  it('bends a line through a point that is pulled', () => {
    editor.update(view({ kind: 'points', role: 'piece' }));
    click(100, 100);
    fire('pointermove', 200, 100);
    fire('pointerdown', 200, 100);
    fire('pointermove', 240, 130);
    fire('pointerup', 240, 130);
    editor.finish();
    const [, , inU, inV, outU, outV] = drawn[0][0].nodes[1];
    expect([inU, inV, outU, outV].map((v) => Number(v.toFixed(3)))).toEqual([-0.1, -0.1, 0.1, 0.1]);
  });

  it('smooths what is drawn freely', () => {
    editor.update(view({ kind: 'free', role: 'piece' }));
    fire('pointermove', 40, 150);
    fire('pointerdown', 40, 150);
    for (let i = 1; i <= 100; i++) fire('pointermove', 40 + i * 3, 150 + 40 * Math.sin(i / 12) + (i % 2));
    fire('pointerup', 340, 150);
    expect(drawn.length).toBe(1);
    const [{ closed, nodes }] = drawn[0];
    expect(closed).toBeFalse();
    expect(nodes.length).toBeLessThan(14);
    expect(nodes[0][0]).toBeCloseTo(0.1, 2);
  });

  it('pulls a shape open, and takes the place of a colour', () => {
    editor.update(view({ kind: 'shape', role: 'piece', shape: 'kite' }));
    fire('pointermove', 100, 100);
    fire('pointerdown', 100, 100);
    fire('pointermove', 200, 220);
    fire('pointerup', 200, 220);
    expect(drawn[0][0].nodes.length).toBe(4);
    expect(drawn[0][0].nodes[0][1]).toBeCloseTo(100 / 300, 6);
    editor.update(view({ kind: 'area', role: 'piece' }));
    click(200, 150);
    expect(pointed).toEqual([[0.5, 0.5]]);
  });

  it('moves, adds and removes points of a piece', () => {
    const paths: DrawnPath[] = [
      {
        closed: true,
        nodes: [
          [0.25, 0.2, 0, 0, 0, 0],
          [0.5, 0.2, 0, 0, 0, 0],
          [0.5, 0.5, 0, 0, 0, 0],
          [0.25, 0.5, 0, 0, 0, 0],
        ],
      },
    ];
    editor.update(view({ kind: 'edit', id: 'd1' }, { paths }));
    fire('pointermove', 200, 60);
    fire('pointerdown', 200, 60);
    fire('pointermove', 220, 75);
    fire('pointerup', 220, 75);
    expect(reshaped.at(-1)?.[0].nodes[1].slice(0, 2)).toEqual([0.55, 0.25]);
    expect(editor.nudge(0, 3)).toBeTrue();
    expect(reshaped.at(-1)?.[0].nodes[1][1]).toBeCloseTo(0.26, 6);
    expect(editor.removePoint()).toBeTrue();
    expect(reshaped.at(-1)?.[0].nodes.length).toBe(3);
    expect(editor.removePoint()).toBeFalse();
  });
});
