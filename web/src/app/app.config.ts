import { provideHttpClient } from '@angular/common/http';
import {
  type ApplicationConfig,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
} from '@angular/core';
import {
  PreloadAllModules,
  provideRouter,
  type Routes,
  withComponentInputBinding,
  withPreloading,
} from '@angular/router';
import { GUIDE_PAGES } from './guide/pages';
import { Shelf } from './shelf/shelf';
import type { Studio } from './studio/studio';

const routes: Routes = [
  { path: '', component: Shelf, title: 'Shelf · Open Kite' },
  {
    path: 'project/:id',
    loadComponent: () => import('./studio/studio').then((m) => m.Studio),
    canDeactivate: [(studio: Studio | null) => studio?.mayLeave() ?? true],
    title: 'Open Kite',
  },
  {
    path: 'threads',
    loadComponent: () => import('./cupboard/thread-page').then((m) => m.ThreadPage),
    title: 'Thread cupboard · Open Kite',
  },
  {
    path: 'machine',
    loadComponent: () => import('./machine/machine-page').then((m) => m.MachinePage),
    title: 'Practice machine · Open Kite',
  },
  {
    path: 'bulk',
    loadComponent: () => import('./bulk/bulk-page').then((m) => m.BulkPage),
    title: 'Bulk run · Open Kite',
  },
  {
    path: 'fabrics',
    loadComponent: () => import('./fabrics/fabrics-page').then((m) => m.FabricsPage),
    title: 'Fabrics · Open Kite',
  },
  {
    path: 'guide',
    pathMatch: 'full',
    redirectTo: `guide/${GUIDE_PAGES[0].id}`,
  },
  {
    path: 'guide/:page',
    loadComponent: () => import('./guide/guide-page').then((m) => m.GuidePage),
    title: 'Guide · Open Kite',
  },
  { path: '**', redirectTo: '' },
];

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideHttpClient(),
    // Opening a project is what people do next: its code is there before they ask for it.
    provideRouter(routes, withComponentInputBinding(), withPreloading(PreloadAllModules)),
  ],
};
