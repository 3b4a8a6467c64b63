import { seededRandom } from './chance.js';
import { meetingBoxes } from './meeting-boxes.js';

describe('meetingBoxes', () => {
  it('finds what comparing all with all finds, in order', () => {
    const random = seededRandom(77);
    const boxes = Array.from({ length: 120 }, () => {
      const [left, top] = [Math.round(random() * 100), Math.round(random() * 100)];
      return { left, top, right: left + Math.round(random() * 20), bottom: top + Math.round(random() * 20) };
    });
    const slow = boxes.map((a, i) =>
      boxes.flatMap((b, j) =>
        i !== j && a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom ? [j] : [],
      ),
    );
    expect(meetingBoxes(boxes)).toEqual(slow);
    expect(slow.some((list) => list.length > 3)).toBeTrue();
    expect(meetingBoxes([])).toEqual([]);
  });
});
