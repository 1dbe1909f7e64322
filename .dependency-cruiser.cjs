/**
 * Arrows point one way: web and server -> contract -> core; bench -> core. Core imports nothing of ours, and of
 * others only small computation without reach (`docs/decisions/16-packages-and-own-code.md`).
 */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'core-is-alone', severity: 'error', from: { path: '^packages/core/src' }, to: { pathNot: '^packages/core/src|node_modules/tinyqueue/' } },
    { name: 'contract-knows-core', severity: 'error', from: { path: '^packages/contract/src' }, to: { path: '^apps|^tools|^e2e' } },
    { name: 'server-not-web', severity: 'error', from: { path: '^apps/server' }, to: { path: '^apps/web' } },
    { name: 'web-not-server', severity: 'error', from: { path: '^apps/web' }, to: { path: '^apps/server|node_modules/(pg|koa|drizzle-orm)/' } },
    { name: 'bench-knows-core', severity: 'error', from: { path: '^apps/bench' }, to: { path: '^apps/(server|web)|^packages/contract' } },
    { name: 'bench-is-far-away', severity: 'error', from: { path: '^apps/(server|web)' }, to: { path: '^apps/bench' } },
    { name: 'no-pg-outside-db', severity: 'error', from: { path: '^apps/server/src', pathNot: '^apps/server/src/db/' }, to: { path: 'node_modules/pg/' } },
    // http -> subjects -> lots -> journal -> db; papers and the demo house stand beside http.
    { name: 'journal-knows-no-subject', severity: 'error', from: { path: '^apps/server/src/(journal|db)/' }, to: { path: '^apps/server/src/(lots|subjects|papers|http|demo|session|devices)/' } },
    { name: 'lots-below-subjects', severity: 'error', from: { path: '^apps/server/src/lots/' }, to: { path: '^apps/server/src/(subjects|papers|http|demo|session|devices)/' } },
    { name: 'subjects-below-http', severity: 'error', from: { path: '^apps/server/src/subjects/' }, to: { path: '^apps/server/src/(papers|http|demo|devices)/' } },
    { name: 'nothing-imports-http', severity: 'error', from: { path: '^apps/server/src/', pathNot: '^apps/server/src/(http/|main\\.ts)' }, to: { path: '^apps/server/src/http/' } },
    { name: 'subjects-by-their-front-door', severity: 'error', from: { path: '^apps/server/src/subjects/([a-z]+)/' }, to: { path: '^apps/server/src/subjects/[a-z]+/', pathNot: '^apps/server/src/subjects/($1/|[a-z]+/index\\.ts)' } },
    { name: 'ui-knows-no-place', severity: 'error', from: { path: '^apps/web/src/app/ui' }, to: { path: '^apps/web/src/app/places' } },
    { name: 'resolved', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default', 'less', 'style'], extensions: ['.ts', '.js', '.json'], mainFields: ['module', 'main', 'types'] },
  },
};
