import { buildBench, buildServer, buildWeb } from './build.mjs';

// What is stale of server, bench and interface.
await buildServer();
await buildBench();
buildWeb();
