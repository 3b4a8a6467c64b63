import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Chart, ChartContent, PrintedGrid, Recipe, StashEntry } from '@open-kite/core';
import type { Patch } from 'immer';
import { catchError, type Observable, throwError } from 'rxjs';

export interface Picture {
  readonly hash: string;
  readonly width: number;
  readonly height: number;
  readonly kind: 'raster' | 'svg';
}

export interface ShelfFigures {
  readonly stitches: number;
  readonly threads: number;
  readonly minutes: number;
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly hasPreview: boolean;
  readonly figures: ShelfFigures | null;
}

export interface HistoryEntry {
  readonly label: string;
  readonly patches: readonly Patch[];
  readonly inverse: readonly Patch[];
}

export interface Project {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly recipe: Recipe;
  readonly picture: Picture;
  readonly history: readonly HistoryEntry[];
  readonly position: number;
}

export interface Save {
  readonly revision: number;
  readonly name: string;
  readonly recipe: Recipe;
  readonly keep: number;
  readonly entries: readonly HistoryEntry[];
  readonly position: number;
}

/** A thread chart as the cupboard holds it. */
export interface CupboardChart extends Chart {
  /** Made by the user, so it can be edited. */
  readonly own: boolean;
  readonly revision: number;
  readonly deleted: boolean;
}

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
    return this.told(this.http.get<CupboardChart[]>('/api/charts'));
  }

  addChart(content: ChartContent): Observable<CupboardChart> {
    return this.told(this.http.post<CupboardChart>('/api/charts', content));
  }

  saveChart(id: string, revision: number, content: ChartContent): Observable<CupboardChart> {
    return this.told(this.http.put<CupboardChart>(`/api/charts/${encodeURIComponent(id)}`, { ...content, revision }));
  }

  removeChart(id: string): Observable<void> {
    return this.told(this.http.delete<void>(`/api/charts/${encodeURIComponent(id)}`));
  }

  restoreChart(id: string): Observable<void> {
    return this.told(this.http.post<void>(`/api/charts/${encodeURIComponent(id)}/restore`, {}));
  }

  /** What is in the drawer. */
  stash(): Observable<StashEntry[]> {
    return this.told(this.http.get<StashEntry[]>('/api/stash'));
  }

  setStash(entries: readonly StashEntry[]): Observable<StashEntry[]> {
    return this.told(this.http.put<StashEntry[]>('/api/stash', { entries }));
  }

  projects(): Observable<ProjectSummary[]> {
    return this.told(this.http.get<ProjectSummary[]>('/api/projects'));
  }

  project(id: string): Observable<Project> {
    return this.told(this.http.get<Project>(`/api/projects/${encodeURIComponent(id)}`));
  }

  addPicture(file: Blob): Observable<Picture> {
    return this.told(this.http.post<Picture>('/api/pictures', file));
  }

  createProject(name: string, picture: string): Observable<Project> {
    return this.told(this.http.post<Project>('/api/projects', { name, picture }));
  }

  save(id: string, save: Save): Observable<{ revision: number }> {
    return this.told(this.http.put<{ revision: number }>(`/api/projects/${encodeURIComponent(id)}`, save));
  }

  remove(id: string): Observable<void> {
    return this.told(this.http.delete<void>(`/api/projects/${encodeURIComponent(id)}`));
  }

  restore(id: string): Observable<void> {
    return this.told(this.http.post<void>(`/api/projects/${encodeURIComponent(id)}/restore`, {}));
  }

  setPreview(id: string, png: Uint8Array<ArrayBuffer>, figures: ShelfFigures): Observable<void> {
    const headers = { 'x-figures': JSON.stringify(figures) };
    const body = new Blob([png], { type: 'image/png' });
    return this.told(this.http.put<void>(`/api/projects/${encodeURIComponent(id)}/preview`, body, { headers }));
  }

  /** Draws the chart of a grid as a PDF. */
  chartPdf(chart: PrintedGrid): Observable<Blob> {
    return this.told(this.http.post('/api/chart', chart, { responseType: 'blob' }));
  }

  private told<T>(answer: Observable<T>): Observable<T> {
    return answer.pipe(
      catchError((error: unknown) => {
        if (!(error instanceof HttpErrorResponse)) return throwError(() => error);
        const body = error.error as { error?: unknown } | null;
        const sentence = typeof body?.error === 'string' ? body.error : undefined;
        const message =
          error.status === 0 ? 'the server cannot be reached' : (sentence ?? `the server answered ${error.status}`);
        return throwError(() => new ApiError(error.status, message));
      }),
    );
  }
}
