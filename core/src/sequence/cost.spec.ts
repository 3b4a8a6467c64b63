import { costOf } from './cost.js';

describe('costOf', () => {
  const figures = {
    threads: [
      { stitches: 1000, lengthM: 60 },
      { stitches: 500, lengthM: 40 },
    ],
    minutes: { oneNeedle: 30, multiNeedle: 24 },
  };
  const prices = { threadKm: 2, bobbinKm: 1, hour: 18, piece: 0.4 };

  it('adds up thread, bobbin, the time of the machine and what a piece takes', () => {
    const { thread, bobbin, machine, piece, total, metres, bobbinMetres, minutes } = costOf(figures, prices, 1);
    expect(bobbinMetres).toBeCloseTo(55, 9);
    expect([metres, minutes]).toEqual([100, 30]);
    expect(thread).toBeCloseTo(0.2, 9);
    expect(bobbin).toBeCloseTo(0.055, 9);
    expect(machine).toBeCloseTo(9, 9);
    expect(piece).toBe(0.4);
    expect(total).toBeCloseTo(9.655, 9);
  });

  it('takes the minutes of a machine that changes threads by itself where there are several needles', () => {
    expect(costOf(figures, prices, 6).machine).toBeCloseTo(7.2, 9);
  });

  it('costs nothing where nothing is paid, or sewn', () => {
    expect(costOf(figures, { threadKm: 0, bobbinKm: 0, hour: 0, piece: 0 }, 1).total).toBe(0);
    expect(costOf({ threads: [], minutes: { oneNeedle: 0, multiNeedle: 0 } }, prices, 1).total).toBe(0.4);
  });
});
