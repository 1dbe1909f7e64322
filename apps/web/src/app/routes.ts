import { inject } from '@angular/core';
import { type CanMatchFn, Router, type Routes } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map, take } from 'rxjs';
import { Frame } from './frame/frame';
import { sessionFeature } from './state/session';
import './ui/everywhere';

/** A place opens only for somebody signed in; the sign-in page leads back to where one wanted to go. */
const signedIn: CanMatchFn = (_route, segments) => {
  const router = inject(Router);
  return inject(Store)
    .select(sessionFeature.selectSessionState)
    .pipe(
      filter((session) => session.state !== 'asking'),
      take(1),
      map(
        (session) =>
          session.person !== null ||
          router.createUrlTree(['/sign-in'], {
            queryParams: { to: `/${segments.map((segment) => segment.path).join('/')}` },
          }),
      ),
    );
};

/** The frame and what every place shows come with the first page; each place when it is first gone to. */
export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Clear Tally',
    loadComponent: () => import('./places/sign-in/sign-in').then((m) => m.SignIn),
  },
  {
    path: '',
    canMatch: [signedIn],
    component: Frame,
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'floor' },
      {
        path: 'floor',
        title: 'Floor · Clear Tally',
        loadComponent: () => import('./places/floor/floor').then((m) => m.Floor),
      },
      {
        path: 'make',
        title: 'Make · Clear Tally',
        loadComponent: () => import('./places/make/making').then((m) => m.Making),
      },
      {
        path: 'make/:batchId',
        title: 'On the bench · Clear Tally',
        loadComponent: () => import('./places/make/bench').then((m) => m.Bench),
      },
      {
        path: 'finish',
        title: 'Finish · Clear Tally',
        loadComponent: () => import('./places/finish/finishes').then((m) => m.Finishes),
      },
      {
        path: 'finish/:code',
        title: 'In hand · Clear Tally',
        loadComponent: () => import('./places/finish/finish').then((m) => m.Finish),
      },
      {
        path: 'pack',
        title: 'Pack · Clear Tally',
        loadComponent: () => import('./places/pack/pack').then((m) => m.Pack),
      },
      {
        path: 'heat',
        title: 'Processes on file · Clear Tally',
        loadComponent: () => import('./places/heat/processes').then((m) => m.Processes),
      },
      {
        path: 'runs',
        title: 'Runs · Clear Tally',
        loadComponent: () => import('./places/release/runs').then((m) => m.Runs),
      },
      {
        path: 'runs/:code/labels',
        title: 'Labels · Clear Tally',
        loadComponent: () => import('./places/labels/labels').then((m) => m.Labels),
      },
      {
        path: 'runs/:code/dossier',
        title: 'Dossier · Clear Tally',
        loadComponent: () => import('./places/release/dossier').then((m) => m.Dossier),
      },
      {
        path: 'runs/:code',
        title: 'A run · Clear Tally',
        loadComponent: () => import('./places/release/run').then((m) => m.Run),
      },
      {
        path: 'dispatch',
        title: 'Dispatch · Clear Tally',
        loadComponent: () => import('./places/dispatch/dispatch').then((m) => m.Dispatch),
      },
      {
        path: 'customers',
        title: 'Customers · Clear Tally',
        loadComponent: () => import('./places/dispatch/customers').then((m) => m.Customers),
      },
      {
        path: 'lots',
        title: 'Lots · Clear Tally',
        loadComponent: () => import('./places/lots/lots').then((m) => m.Lots),
      },
      {
        path: 'lots/before-the-ledger',
        title: 'From before these records · Clear Tally',
        loadComponent: () => import('./places/lots/opening').then((m) => m.Opening),
      },
      {
        path: 'lots/:code',
        title: 'Lot · Clear Tally',
        loadComponent: () => import('./places/lots/lot').then((m) => m.Lot),
      },
      {
        path: 'correct/:entryId',
        title: 'Put right · Clear Tally',
        loadComponent: () => import('./places/correct/correct').then((m) => m.Correct),
      },
      {
        path: 'trace',
        title: 'Trace · Clear Tally',
        loadComponent: () => import('./places/trace/trace').then((m) => m.Trace),
      },
      {
        path: 'trace/:code',
        title: 'Trace · Clear Tally',
        loadComponent: () => import('./places/trace/trace').then((m) => m.Trace),
      },
      {
        path: 'in-order',
        title: 'In order · Clear Tally',
        loadComponent: () => import('./places/trace/in-order').then((m) => m.InOrder),
      },
      {
        path: 'trace-by',
        title: 'Trace · Clear Tally',
        loadComponent: () => import('./places/trace/asked-by').then((m) => m.AskedByPage),
      },
      {
        path: 'trace-by/:by/:id',
        title: 'Trace · Clear Tally',
        loadComponent: () => import('./places/trace/asked-by').then((m) => m.AskedByPage),
      },
      {
        path: 'shared-cause',
        title: 'Shared cause · Clear Tally',
        loadComponent: () => import('./places/trace/shared-cause').then((m) => m.SharedCause),
      },
      {
        path: 'tallies',
        title: 'Tallies · Clear Tally',
        loadComponent: () => import('./places/trace/tallies').then((m) => m.Tallies),
      },
      {
        path: 'records',
        title: 'Records · Clear Tally',
        loadComponent: () => import('./places/trace/records').then((m) => m.Records),
      },
      {
        path: 'complaints',
        title: 'Complaints · Clear Tally',
        loadComponent: () => import('./places/recall/complaints').then((m) => m.Complaints),
      },
      {
        path: 'recalls',
        title: 'Recall · Clear Tally',
        loadComponent: () => import('./places/recall/recalls').then((m) => m.Recalls),
      },
      {
        path: 'recalls/:code',
        title: 'Recall · Clear Tally',
        loadComponent: () => import('./places/recall/recall').then((m) => m.Recall),
      },
      {
        path: 'cleaning',
        title: 'Cleaning · Clear Tally',
        loadComponent: () => import('./places/house/cleaning').then((m) => m.Cleaning),
      },
      {
        path: 'vessels',
        title: 'Rooms and vessels · Clear Tally',
        loadComponent: () => import('./places/house/registers').then((m) => m.Registers),
      },
      {
        path: 'founding',
        title: 'Setting up · Clear Tally',
        loadComponent: () => import('./places/house/founding').then((m) => m.Founding),
      },
      {
        path: 'formulas',
        title: 'Formulas · Clear Tally',
        loadComponent: () => import('./places/formulas/formulas').then((m) => m.Formulas),
      },
      {
        path: 'formulas/new',
        title: 'A new formula · Clear Tally',
        loadComponent: () => import('./places/formulas/editor/editor').then((m) => m.Editor),
      },
      {
        path: 'formulas/take-in',
        title: 'Take a recipe in · Clear Tally',
        loadComponent: () => import('./places/formulas/take-in').then((m) => m.TakeIn),
      },
      {
        path: 'formulas/beside',
        title: 'Two formulas · Clear Tally',
        loadComponent: () => import('./places/formulas/beside').then((m) => m.Beside),
      },
      {
        path: 'formulas/:formulaId/edit',
        title: 'Edit a formula · Clear Tally',
        loadComponent: () => import('./places/formulas/editor/editor').then((m) => m.Editor),
      },
      {
        path: 'formulas/:formulaId/versions',
        title: 'Versions · Clear Tally',
        loadComponent: () => import('./places/formulas/versions').then((m) => m.Versions),
      },
      {
        path: 'formulas/:formulaId',
        title: 'Formula · Clear Tally',
        loadComponent: () => import('./places/formulas/formula').then((m) => m.Formula),
      },
      {
        path: 'tools',
        title: 'Quick tools · Clear Tally',
        loadComponent: () => import('./places/tools/tools').then((m) => m.Tools),
      },
      {
        path: 'stores',
        title: 'Stores · Clear Tally',
        loadComponent: () => import('./places/stores/stock').then((m) => m.Stock),
      },
      {
        path: 'stores/delivery',
        title: 'A delivery · Clear Tally',
        loadComponent: () => import('./places/stores/delivery').then((m) => m.Delivery),
      },
      {
        path: 'materials',
        title: 'Materials · Clear Tally',
        loadComponent: () => import('./places/stores/materials').then((m) => m.Materials),
      },
      {
        path: 'guide',
        title: 'Guide · Clear Tally',
        loadComponent: () => import('./places/guide/judging').then((m) => m.Judging),
      },
      {
        path: 'guide/cautions',
        title: 'Cautions · Clear Tally',
        loadComponent: () => import('./places/guide/cautions').then((m) => m.Cautions),
      },
      {
        path: 'guide/above-the-limit',
        title: 'Above the limit · Clear Tally',
        loadComponent: () => import('./places/guide/above-limit').then((m) => m.AboveLimit),
      },
      {
        path: 'guide/reminders',
        title: 'Reminders · Clear Tally',
        loadComponent: () => import('./places/guide/reminders').then((m) => m.Reminders),
      },
      {
        path: 'equipment',
        title: 'Equipment · Clear Tally',
        loadComponent: () => import('./places/house/equipment').then((m) => m.Equipment),
      },
      {
        path: 'meters',
        title: 'Meters · Clear Tally',
        loadComponent: () => import('./places/office/meters').then((m) => m.Meters),
      },
      {
        path: 'people',
        title: 'Who comes in · Clear Tally',
        loadComponent: () => import('./places/office/people').then((m) => m.People),
      },
      {
        path: 'rights',
        title: 'Who may what · Clear Tally',
        loadComponent: () => import('./places/office/rights').then((m) => m.Rights),
      },
      {
        path: 'other-devices',
        title: 'Other devices · Clear Tally',
        loadComponent: () => import('./places/office/other-devices').then((m) => m.OtherDevices),
      },
      {
        path: 'the-book',
        title: 'Everything recorded · Clear Tally',
        loadComponent: () => import('./places/office/the-book').then((m) => m.TheBook),
      },
      {
        path: 'the-record',
        title: 'The record · Clear Tally',
        loadComponent: () => import('./places/office/the-record').then((m) => m.TheRecord),
      },
      {
        path: 'house-rules',
        title: 'House rules · Clear Tally',
        loadComponent: () => import('./places/office/house-rules').then((m) => m.HouseRules),
      },
      {
        path: '**',
        title: 'Not here · Clear Tally',
        loadComponent: () => import('./frame/not-here').then((m) => m.NotHere),
      },
    ],
  },
];
