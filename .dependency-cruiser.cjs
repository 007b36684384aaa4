/** The rooms of the core, in order: one may import from those before it, never from those after it, types included. */
const ROOMS = [
  'measure',
  'geometry',
  'path',
  'section',
  'mesh/data',
  'mesh/build',
  'mesh/query',
  'mesh/cut',
  'mesh/verify',
  'mesh/repair',
  'check',
  'sweep/carry',
  'sweep/exact',
  'sweep/skin',
  'sweep',
  'turn',
  'solid/kernel',
  'solid/body',
  'solid/combine',
  'solid/tubes',
  'solid/hollow',
  'solid/deform',
  'solid/fillet',
  'solid',
  'trade',
  'kind',
  'kinds',
  'design',
  'view',
  'drawing',
  'exchange',
];
/** The same of the application. */
const APP = ['ui', 'data', 'worker', 'render', 'bench', 'fields', 'steps', 'workbench', 'help', 'shelf'];

/** Rooms that have rooms within: files beside those come after them. */
const WITH_ROOMS = ['sweep', 'solid'];
const inside = (of) => (room) =>
  WITH_ROOMS.includes(room) ? `^${of}/src/${room}/[^/]+$` : `^${of}/src/${room}/`;
const layers = (of, rooms) =>
  rooms.slice(0, -1).map((room, i) => ({
    name: `${of}-${room.replace('/', '-')}-knows-only-what-comes-before`,
    severity: 'error',
    from: { path: inside(of)(room) },
    to: { path: rooms.slice(i + 1).map(inside(of)) },
  }));

module.exports = {
  forbidden: [
    ...layers('core', ROOMS),
    ...layers('app', APP),
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-has-no-interface',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: ['^(app|server|e2e|bench)/', 'node_modules/(react|react-.*|three|@react-three)(/|$)'] },
    },
    {
      name: 'server-knows-only-the-core',
      severity: 'error',
      from: { path: '^server/src/' },
      to: { path: '^(app|e2e|bench)/' },
    },
    {
      name: 'app-knows-only-the-core',
      severity: 'error',
      from: { path: '^app/src/' },
      to: { path: '^(server|e2e|bench)/' },
    },
  ],
  options: {
    doNotFollow: 'node_modules',
    exclude: { path: '(^|/)(dist|test-results)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
};
