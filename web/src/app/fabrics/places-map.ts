import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { SewnShape } from './sew-out-protocol';

/** A small picture of what was sewn, with the numbers of the four places that are to be found on the photograph. */
@Component({
  selector: 'kite-places-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="box()" role="img" aria-label="The design with its four places">
      <path [attr.d]="outlines()" />
      @for (place of shape().places; track $index) {
        <g [attr.transform]="'translate(' + place.x + ' ' + place.y + ') scale(' + unit() + ')'">
          <rect x="-7" y="-7" width="14" height="14" transform="rotate(45)" />
          <text y="4.5">{{ $index + 1 }}</text>
        </g>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: 190px;
      overflow: visible;
    }
    path {
      fill: var(--line);
      stroke: var(--mute);
      stroke-width: 1;
      vector-effect: non-scaling-stroke;
    }
    rect {
      fill: #c8481f;
    }
    text {
      fill: #ffffff;
      font: 600 12px var(--text);
      text-anchor: middle;
    }
  `,
})
export class PlacesMap {
  readonly shape = input.required<SewnShape>();

  /** Room around, so that no number is cut off. */
  private readonly room = computed(() => {
    const { left, top, right, bottom } = this.shape().bounds;
    const size = Math.max(right - left, bottom - top);
    return { left, top, width: right - left, height: bottom - top, size };
  });
  protected readonly box = computed(() => {
    const { left, top, width, height, size } = this.room();
    const around = size * 0.06;
    return `${left - around} ${top - around} ${width + 2 * around} ${height + 2 * around}`;
  });
  /** Millimetres of one pixel of the picture. */
  protected readonly unit = computed(() => this.room().size / 190);
  protected readonly outlines = computed(() =>
    this.shape()
      .rings.map((points) => `M${points.map((v) => v.toFixed(2)).join(' ')}Z`)
      .join(''),
  );
}
