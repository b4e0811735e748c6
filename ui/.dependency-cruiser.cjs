/** Which folder may use which. A view uses those below it: shell, people, build, run, read, kit. */
const above = (from, to) => ({
  name: `${from.replaceAll('|', '-')}-not-above`,
  severity: 'error',
  from: { path: `^src/(${from})/` },
  to: { path: `^src/(${to})/` },
})

module.exports = {
  forbidden: [
    { name: 'no-circle', severity: 'error', from: {}, to: { circular: true } },
    { name: 'not-found', severity: 'error', from: {}, to: { couldNotResolve: true } },
    above('people', 'shell'),
    above('build', 'shell|people'),
    above('run', 'shell|people|build'),
    above('read', 'shell|people|build|run'),
    above('api|kit|glyphs|strip', 'shell|people|build|run|read'),
    {
      name: 'no-react-where-it-plays',
      comment: 'What plays, keeps, hears, sees and takes inputs knows no React.',
      severity: 'error',
      from: { path: '^src/run/(player|recorder|inputs|hearing|seeing)/' },
      to: { path: '(^|/)node_modules/react' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.test\\.ts$' },
  },
}
