import { Directive, ElementRef, inject, type OnDestroy, output } from '@angular/core';

/** A piece dragged onto a row of the tray, and the piece there it was let go on. */
export interface TrayDrop {
  readonly piece: number;
  /** Key of the row. */
  readonly row: string;
  readonly onto: number | undefined;
}

/** The pointer must move this far, in CSS pixels, before it drags. */
const SLACK = 6;

/**
 * Drags pieces within the tray. One listener serves all of them: a drag directive on each of a thousand pieces and
 * rows costs more than drawing them does. Pieces carry `data-piece`, rows `data-row`.
 */
@Directive({
  selector: '[kiteTrayDrag]',
  host: {
    '(pointerdown)': 'pressed($event)',
    '(document:pointermove)': 'moved($event)',
    '(document:pointerup)': 'lifted($event)',
    '(document:pointercancel)': 'stop()',
    '(document:keydown.escape)': 'stop()',
    // What was dragged is not chosen as well.
    '(click)': 'clicked($event)',
  },
})
export class TrayDrag implements OnDestroy {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly dropped = output<TrayDrop>();

  private pressedOn: { piece: number; element: HTMLElement; x: number; y: number } | undefined;
  private ghost: HTMLElement | undefined;
  private over: Element | undefined;
  private justDragged = false;

  ngOnDestroy(): void {
    this.stop();
  }

  protected pressed(event: PointerEvent): void {
    this.justDragged = false;
    const element = (event.target as Element).closest<HTMLElement>('[data-piece]');
    if (!element || event.button !== 0 || event.shiftKey || event.ctrlKey) return;
    this.pressedOn = { piece: Number(element.dataset['piece']), element, x: event.clientX, y: event.clientY };
  }

  protected moved(event: PointerEvent): void {
    const from = this.pressedOn;
    if (!from) return;
    if (!this.ghost) {
      if (Math.abs(event.clientX - from.x) + Math.abs(event.clientY - from.y) < SLACK) return;
      this.ghost = from.element.cloneNode(true) as HTMLElement;
      this.ghost.classList.add('ghost');
      this.ghost.setAttribute('aria-hidden', 'true');
      this.host.append(this.ghost);
    }
    this.ghost.style.transform = `translate(${event.clientX - 20}px, ${event.clientY - 20}px)`;
    const row = this.rowAt(event);
    if (row !== this.over) {
      this.over?.classList.remove('target');
      row?.classList.add('target');
      this.over = row;
    }
  }

  protected lifted(event: PointerEvent): void {
    const from = this.pressedOn;
    if (from && this.ghost) {
      const row = this.rowAt(event);
      const onto = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-piece]');
      const key = row?.dataset['row'];
      this.justDragged = true;
      if (key !== undefined) {
        this.dropped.emit({ piece: from.piece, row: key, onto: onto ? Number(onto.dataset['piece']) : undefined });
      }
    }
    this.stop();
  }

  protected clicked(event: MouseEvent): void {
    if (!this.justDragged) return;
    this.justDragged = false;
    event.stopPropagation();
  }

  protected stop(): void {
    this.pressedOn = undefined;
    this.ghost?.remove();
    this.ghost = undefined;
    this.over?.classList.remove('target');
    this.over = undefined;
  }

  private rowAt(event: PointerEvent): HTMLElement | undefined {
    const row = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-row]');
    return row && this.host.contains(row) ? row : undefined;
  }
}
