import { provideHttpClient } from '@angular/common/http';
import {
  type ApplicationConfig,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
} from '@angular/core';
import { provideRouter, type Routes, withComponentInputBinding } from '@angular/router';
import { Shelf } from './shelf/shelf';

const routes: Routes = [
  { path: '', component: Shelf, title: 'Shelf · Open Kite' },
  { path: 'project/:id', loadComponent: () => import('./studio/studio').then((m) => m.Studio), title: 'Open Kite' },
  {
    path: 'threads',
    loadComponent: () => import('./cupboard/thread-page').then((m) => m.ThreadPage),
    title: 'Thread cupboard · Open Kite',
  },
  { path: '**', redirectTo: '' },
];

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideHttpClient(),
    provideRouter(routes, withComponentInputBinding()),
  ],
};
