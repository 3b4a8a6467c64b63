import { Pipe, type PipeTransform } from '@angular/core';

interface Named {
  readonly chart: string;
  readonly code: string;
  readonly name: string;
}

/** What a thread is called in lists: by its chart's code and name; one of the user's own only by its name. */
export const threadLabel = ({ chart, code, name }: Named): string => (chart === 'own' ? name : `${code} ${name}`);

/** The same in templates. */
@Pipe({ name: 'threadLabel' })
export class ThreadLabel implements PipeTransform {
  transform(thread: Named): string {
    return threadLabel(thread);
  }
}
