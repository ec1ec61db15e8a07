/** Who may import whom. Folders of the web part that all may use are named; every other one is a view by itself. */
const VIEWS = 'web/src/app/((?!ui/|state/|live/)[^/]+)/';

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-imports-nobody',
      severity: 'error',
      from: { path: '^core/src', pathNot: '(\\.test\\.ts$|/testing/)' },
      to: {
        pathNot:
          '^(core/src|node_modules/(zod|pitchy|fft[.]js|fflate|midi-file|mpg123-decoder|@wasm-audio-decoders))',
      },
    },
    {
      name: 'pure-packages-each-in-its-room',
      comment:
        'Listening transforms and finds periods; files are unpacked and decoded where they are exchanged.',
      severity: 'error',
      from: { path: '^core/src/(?!listening/|exchange/)', pathNot: '(\\.test\\.ts$|/testing/)' },
      to: {
        path: '^node_modules/(pitchy|fft[.]js|fflate|midi-file|mpg123-decoder|@wasm-audio-decoders)',
      },
    },
    {
      name: 'the-model-stands-on-plain-things',
      severity: 'error',
      from: { path: '^core/src/model/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/src/', pathNot: '^core/src/(model|midi|pitch|range|touch|units)/' },
    },
    {
      name: 'bytes-know-no-model',
      severity: 'error',
      from: { path: '^core/src/midi/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/src/', pathNot: '^core/src/(midi|units)/' },
    },
    {
      name: 'who-answers-comes-before-how-loud',
      severity: 'error',
      from: { path: '^core/src/routing/' },
      to: { path: '^core/src/loudness/' },
    },
    {
      name: 'what-notes-do-knows-nothing-of-who-asks',
      comment:
        'Notes and hands say what they want by interfaces; the stage carries out what notes ask for.',
      severity: 'error',
      from: { path: '^core/src/playing/(notes|hands|stage)/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/src/playing/((hands|show)/|[^/]+$)', pathNot: '^core/src/playing/$1/' },
    },
    {
      name: 'notes-and-hands-know-no-stage',
      severity: 'error',
      from: { path: '^core/src/playing/(notes|hands)/', pathNot: '[.]test[.]ts$' },
      to: { path: '^core/src/playing/(notes|stage)/', pathNot: '^core/src/playing/$1/' },
    },
    {
      name: 'server-never-web',
      severity: 'error',
      from: { path: '^server' },
      to: { path: '^web' },
    },
    {
      name: 'web-never-server',
      severity: 'error',
      from: { path: '^web' },
      to: { path: '^server' },
    },
    {
      name: 'views-never-import-each-other',
      severity: 'error',
      from: { path: `^${VIEWS}`, pathNot: '^web/src/app/shell/' },
      to: { path: `^${VIEWS}`, pathNot: '^web/src/app/$1/' },
    },
    {
      name: 'the-shell-shows-the-ribbon',
      comment:
        'The ribbon stands over every desk view; of the other views the shell knows nothing.',
      severity: 'error',
      from: { path: '^web/src/app/shell/' },
      to: { path: `^${VIEWS}`, pathNot: '^web/src/app/(shell/|running-order/ribbon[.]ts$)' },
    },
    {
      name: 'ui-knows-no-view',
      severity: 'error',
      from: { path: '^web/src/app/ui/' },
      to: { path: `^${VIEWS}` },
    },
    {
      name: 'live-knows-no-component',
      severity: 'error',
      from: { path: '^web/src/app/live/' },
      to: { path: `(^${VIEWS}|^web/src/app/(ui|state)/)` },
    },
    {
      name: 'state-knows-no-view',
      severity: 'error',
      from: { path: '^web/src/app/state/' },
      to: { path: `(^${VIEWS}|^web/src/app/ui/)` },
    },
    { name: 'nothing-unresolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules|/dist/' },
    exclude: { path: '/dist/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.depcruise.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default', 'types'],
      extensions: ['.ts', '.js', '.mjs', '.json'],
    },
  },
};
