/** npm start: installs, builds and serves with the demo data, and prints the address. */
import { build, install, run } from './prepare.mjs';

install();
await build();
process.exit(run(process.execPath, ['server/bin/nematos.js', 'serve', ...process.argv.slice(2)]));
