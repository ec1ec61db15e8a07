import type { Routes } from '@angular/router';
import type { Room } from './ui/rooms';

/** The shelves of the library. */
const LIBRARY: readonly Room[] = [
  { path: '/library/sounds', name: 'Sounds' },
  { path: '/library/recordings', name: 'Recordings' },
  { path: '/library/patterns', name: 'Patterns' },
];
const RIG: readonly Room[] = [
  { path: '/rig', name: 'Plan', exact: true },
  { path: '/rig/channels', name: 'Channels' },
  { path: '/rig/ties', name: 'Ties' },
  { path: '/rig/controls', name: 'Controls' },
  { path: '/rig/monitor', name: 'Monitor' },
];

export const routes: Routes = [
  {
    path: 'showtime',
    title: 'Showtime · Pentachord',
    loadComponent: () => import('./showtime/showtime-view').then((m) => m.ShowtimeView),
  },
  {
    path: 'stand-ins',
    title: 'Stand-ins · Pentachord',
    loadComponent: () => import('./stand-ins/stand-ins-view').then((m) => m.StandInsView),
  },
  {
    path: '',
    loadComponent: () => import('./shell/shell').then((m) => m.Shell),
    children: [
      {
        path: '',
        pathMatch: 'full',
        title: 'Pentachord',
        loadComponent: () => import('./beginning/beginning-view').then((m) => m.BeginningView),
      },
      {
        path: 'shows',
        title: 'Shows · Pentachord',
        loadComponent: () => import('./shows/shows-view').then((m) => m.ShowsView),
      },
      {
        path: 'running-order',
        title: 'Running order · Pentachord',
        loadComponent: () =>
          import('./running-order/running-order-view').then((m) => m.RunningOrderView),
      },
      {
        path: 'song',
        title: 'Song · Pentachord',
        loadComponent: () => import('./songs/song-view').then((m) => m.SongView),
      },
      {
        path: 'patch',
        title: 'Patch · Pentachord',
        loadComponent: () => import('./patch/patch-view').then((m) => m.PatchView),
      },
      {
        path: 'patch/band',
        title: 'Band · Pentachord',
        loadComponent: () => import('./band/band-view').then((m) => m.BandView),
      },
      {
        path: 'library',
        loadComponent: () => import('./ui/rooms').then((m) => m.Rooms),
        data: { label: 'Library', rooms: LIBRARY },
        children: [
          { path: '', pathMatch: 'full', redirectTo: 'sounds' },
          {
            path: 'sounds',
            title: 'Sounds · Pentachord',
            loadComponent: () => import('./library/sounds/sounds-view').then((m) => m.SoundsView),
          },
          {
            path: 'sounds/:soundId/zones',
            title: 'Zones · Pentachord',
            loadComponent: () => import('./mapping/mapping-view').then((m) => m.MappingView),
          },
          {
            path: 'recordings',
            title: 'Recordings · Pentachord',
            loadComponent: () =>
              import('./library/recordings/recordings-view').then((m) => m.RecordingsView),
          },
          {
            path: 'patterns',
            title: 'Patterns · Pentachord',
            loadComponent: () =>
              import('./library/patterns/patterns-view').then((m) => m.PatternsView),
          },
        ],
      },
      {
        path: 'rig',
        loadComponent: () => import('./ui/rooms').then((m) => m.Rooms),
        data: { label: 'Rig', rooms: RIG },
        children: [
          {
            path: '',
            pathMatch: 'full',
            title: 'Rig · Pentachord',
            loadComponent: () => import('./rig/plan/rig-view').then((m) => m.RigView),
          },
          {
            path: 'channels',
            title: 'Channels · Pentachord',
            loadComponent: () => import('./rig/channels/channels-view').then((m) => m.ChannelsView),
          },
          {
            path: 'ties',
            title: 'Ties · Pentachord',
            loadComponent: () => import('./rig/ties/ties-view').then((m) => m.TiesView),
          },
          {
            path: 'controls',
            title: 'Controls · Pentachord',
            loadComponent: () => import('./rig/controls/controls-view').then((m) => m.ControlsView),
          },
          {
            path: 'monitor',
            title: 'Monitor · Pentachord',
            loadComponent: () => import('./rig/monitor/monitor-view').then((m) => m.MonitorView),
          },
        ],
      },
      // Where these rooms were before.
      { path: 'sounds', redirectTo: 'library/sounds' },
      { path: 'ties', redirectTo: 'rig/ties' },
      { path: 'controls', redirectTo: 'rig/controls' },
      { path: 'monitor', redirectTo: 'rig/monitor' },
      {
        path: 'logbook',
        title: 'Logbook · Pentachord',
        loadComponent: () => import('./logbook/logbook-view').then((m) => m.LogbookView),
      },
      {
        path: 'preferences',
        title: 'Preferences · Pentachord',
        loadComponent: () =>
          import('./preferences/preferences-view').then((m) => m.PreferencesView),
      },
      {
        path: 'backups',
        title: 'Backups · Pentachord',
        loadComponent: () => import('./backups/backups-view').then((m) => m.BackupsView),
      },
    ],
  },
  { path: '**', redirectTo: 'patch' },
];
