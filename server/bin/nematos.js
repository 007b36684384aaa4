#!/usr/bin/env node
// The sources are TypeScript: tsx reads them as they are, so that there is no build to keep in step.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('../src/cli.ts');
process.exitCode = await main(process.argv.slice(2));
