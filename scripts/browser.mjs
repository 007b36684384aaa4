/** Installs the browser of the tests, where it is missing; on its own, so that it goes on beside other work. */
import { browser } from './prepare.mjs';

browser();
