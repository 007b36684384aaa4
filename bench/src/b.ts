import { browserRows } from './browser';
for (const r of await browserRows()) console.log(r.met, r.what.slice(0,60), r.measured, /median [\d.]+/.exec(r.what)?.[0]);
