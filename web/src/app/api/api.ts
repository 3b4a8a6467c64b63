import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import {
  binnedSchema,
  chartSchema,
  chartsSchema,
  checked,
  ContractError,
  fontOutlinesSchema,
  fontsSchema,
  healthSchema,
  pictureSchema,
  projectSchema,
  projectsSchema,
  savedSchema,
  stashSchema,
  type BinnedProject,
  type CupboardChart,
  type FontInfo,
  type Health,
  type Picture,
  type Project,
  type ProjectSummary,
  type Save,
  type Saved,
  type SewnOff,
  type ShelfFigures,
} from '@open-kite/contract';
import type { FontOutlines, ChartContent, PrintedGrid, Recipe, StashEntry } from '@open-kite/core';
import { catchError, map, type Observable, throwError } from 'rxjs';
import type { Schema } from 'yup';

/** An answer that is no success: the server's own sentence, and the status (0 where it was not reached). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** Talks to the server; every failure arrives as an ApiError. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  /** Thread charts, shipped ones first; deleted ones come last, for projects that still use them. */
  charts(): Observable<CupboardChart[]> {
    return this.told(this.http.get<CupboardChart[]>('/api/charts'), chartsSchema);
  }

  addChart(content: ChartContent): Observable<CupboardChart> {
    return this.told(this.http.post<CupboardChart>('/api/charts', content), chartSchema);
  }

  saveChart(id: string, revision: number, content: ChartContent): Observable<CupboardChart> {
    return this.told(
      this.http.put<CupboardChart>(`/api/charts/${encodeURIComponent(id)}`, { ...content, revision }),
      chartSchema,
    );
  }

  removeChart(id: string): Observable<void> {
    return this.told(this.http.delete<void>(`/api/charts/${encodeURIComponent(id)}`));
  }

  restoreChart(id: string): Observable<void> {
    return this.told(this.http.post<void>(`/api/charts/${encodeURIComponent(id)}/restore`, {}));
  }

  /** What is in the drawer. */
  stash(): Observable<StashEntry[]> {
    return this.told(this.http.get<StashEntry[]>('/api/stash'), stashSchema);
  }

  setStash(entries: readonly StashEntry[]): Observable<StashEntry[]> {
    return this.told(this.http.put<StashEntry[]>('/api/stash', { entries }), stashSchema);
  }

  /** Takes what was sewn off the drawer. */
  takeOff(sewn: SewnOff): Observable<StashEntry[]> {
    return this.told(this.http.post<StashEntry[]>('/api/stash/sewn', sewn), stashSchema);
  }

  health(): Observable<Health> {
    return this.told(this.http.get<Health>('/api/health'), healthSchema);
  }

  projects(): Observable<ProjectSummary[]> {
    return this.told(this.http.get<ProjectSummary[]>('/api/projects'), projectsSchema);
  }

  project(id: string): Observable<Project> {
    return this.told(this.http.get<Project>(`/api/projects/${encodeURIComponent(id)}`), projectSchema);
  }

  addPicture(file: Blob): Observable<Picture> {
    return this.told(this.http.post<Picture>('/api/pictures', file), pictureSchema);
  }

  /** Fonts letters can be set in. */
  fonts(): Observable<FontInfo[]> {
    return this.told(this.http.get<FontInfo[]>('/api/fonts'), fontsSchema);
  }

  /** Outlines of the letters of a text. */
  glyphs(font: string, text: string): Observable<FontOutlines> {
    return this.told(
      this.http.post<FontOutlines>(`/api/fonts/${encodeURIComponent(font)}/glyphs`, { text }),
      fontOutlinesSchema,
    );
  }

  /** Makes a project of an archive, with everything in it. */
  openArchive(file: Blob): Observable<Project> {
    const body = new Blob([file], { type: 'application/zip' });
    return this.told(this.http.post<Project>('/api/projects/archive', body), projectSchema);
  }

  createProject(name: string, picture: string | null): Observable<Project> {
    return this.told(this.http.post<Project>('/api/projects', { name, picture }), projectSchema);
  }

  /** A project of a recipe that is made already, with the pictures it shows. */
  createVariant(name: string, recipe: Recipe, pictures: Readonly<Record<string, string>>): Observable<Project> {
    const body = { name, picture: null, recipe, pictures };
    return this.told(this.http.post<Project>('/api/projects', body), projectSchema);
  }

  save(id: string, save: Save): Observable<Saved> {
    return this.told(this.http.put<Saved>(`/api/projects/${encodeURIComponent(id)}`, save), savedSchema);
  }

  remove(id: string): Observable<void> {
    return this.told(this.http.delete<void>(`/api/projects/${encodeURIComponent(id)}`));
  }

  restore(id: string): Observable<void> {
    return this.told(this.http.post<void>(`/api/projects/${encodeURIComponent(id)}/restore`, {}));
  }

  rename(id: string, name: string): Observable<void> {
    return this.told(this.http.put<void>(`/api/projects/${encodeURIComponent(id)}/name`, { name }));
  }

  /** Makes a second one of a project. */
  duplicate(id: string): Observable<Project> {
    return this.told(this.http.post<Project>(`/api/projects/${encodeURIComponent(id)}/copy`, {}), projectSchema);
  }

  /** What was taken off the shelf, the latest first. */
  bin(): Observable<BinnedProject[]> {
    return this.told(this.http.get<BinnedProject[]>('/api/projects/bin'), binnedSchema);
  }

  /** Deletes for good what was taken off the shelf: one project, or all. */
  erase(id?: string): Observable<void> {
    const path = id === undefined ? '' : `/${encodeURIComponent(id)}`;
    return this.told(this.http.delete<void>(`/api/projects/bin${path}`));
  }

  /** Archives of projects: of one a `.kite`, of several a ZIP of them. */
  share(ids: readonly string[]): Observable<Blob> {
    return this.told(this.http.post('/api/projects/share', { ids }, { responseType: 'blob' }));
  }

  setPreview(id: string, png: Uint8Array<ArrayBuffer>, figures: ShelfFigures): Observable<void> {
    const headers = { 'x-figures': JSON.stringify(figures) };
    const body = new Blob([png], { type: 'image/png' });
    return this.told(this.http.put<void>(`/api/projects/${encodeURIComponent(id)}/preview`, body, { headers }));
  }

  /** Draws the worksheet of a stitch list as a PDF. */
  worksheet(list: Blob, name: string, paper: 'A4' | 'LETTER', notes: string): Observable<Blob> {
    const query = new URLSearchParams({ name, paper, notes });
    const body = new Blob([list], { type: 'text/csv' });
    return this.told(this.http.post(`/api/worksheet?${query}`, body, { responseType: 'blob' }));
  }

  /** Draws the chart of a grid as a PDF. */
  chartPdf(chart: PrintedGrid): Observable<Blob> {
    return this.told(this.http.post('/api/chart', chart, { responseType: 'blob' }));
  }

  private told<T>(answer: Observable<T>, schema?: Schema<T>): Observable<T> {
    return told(answer, schema);
  }
}

/** Checks an answer, and tells every failure as an ApiError. */
export function told<T>(answer: Observable<T>, schema?: Schema<T>): Observable<T> {
  return answer.pipe(
    map((value) => (schema ? checked(schema, value) : value)),
    catchError((error: unknown) => {
      if (error instanceof ContractError) {
        return throwError(() => new ApiError(502, `the server's answer cannot be used: ${error.message}`));
      }
      if (!(error instanceof HttpErrorResponse)) return throwError(() => error);
      const body = error.error as { error?: unknown } | null;
      const sentence = typeof body?.error === 'string' ? body.error : undefined;
      const message =
        error.status === 0 ? 'the server cannot be reached' : (sentence ?? `the server answered ${error.status}`);
      return throwError(() => new ApiError(error.status, message));
    }),
  );
}
