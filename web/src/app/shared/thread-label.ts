import { Pipe, type PipeTransform } from '@angular/core';

/** What a thread is called in lists: by its chart's code and name; one of the user's own only by its name. */
@Pipe({ name: 'threadLabel' })
export class ThreadLabel implements PipeTransform {
  transform({ chart, code, name }: { readonly chart: string; readonly code: string; readonly name: string }): string {
    return chart === 'own' ? name : `${code} ${name}`;
  }
}
