import type { Routes } from '@angular/router';
import { askBeforeLeaving } from './document/leave-guard';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'graphics' },
  {
    path: 'graphics',
    title: 'Graphics · Bright Slot',
    data: { next: true },
    loadComponent: () => import('./graphics/graphics-page').then((m) => m.GraphicsPage),
  },
  {
    path: 'graphics/new',
    title: 'New graphic · Bright Slot',
    loadComponent: () => import('./start/start-page').then((m) => m.StartPage),
  },
  {
    path: 'graphics/:id',
    title: 'Workbench · Bright Slot',
    data: { next: true },
    canDeactivate: [askBeforeLeaving],
    loadComponent: () => import('./workbench/workbench-page').then((m) => m.WorkbenchPage),
  },
  {
    path: 'graphics/:id/export',
    title: 'Export · Bright Slot',
    data: { next: true },
    canDeactivate: [askBeforeLeaving],
    loadComponent: () => import('./export/export-page').then((m) => m.ExportPage),
  },
  {
    path: 'graphics/:id/carry',
    title: 'Carry over · Bright Slot',
    loadComponent: () => import('./carry/carry-page').then((m) => m.CarryPage),
  },
  {
    path: 'sets/:id',
    title: 'Set · Bright Slot',
    loadComponent: () => import('./sets/set-page').then((m) => m.SetPage),
  },
  {
    path: 'everywhere',
    title: 'Replace everywhere · Bright Slot',
    loadComponent: () => import('./everywhere/everywhere-page').then((m) => m.EverywherePage),
  },
  {
    path: 'exports',
    title: 'Export several · Bright Slot',
    loadComponent: () => import('./export/several-page').then((m) => m.SeveralExportsPage),
  },
  {
    path: 'slots',
    title: 'Slots · Bright Slot',
    loadComponent: () => import('./slots/slots-page').then((m) => m.SlotsPage),
  },
  {
    path: 'house-style',
    title: 'House style · Bright Slot',
    loadComponent: () => import('./house-style/house-style-page').then((m) => m.HouseStylePage),
  },
  {
    path: 'sites',
    title: 'Sites · Bright Slot',
    loadComponent: () => import('./sites/sites-page').then((m) => m.SitesPage),
  },
  { path: '**', redirectTo: 'graphics' },
];
