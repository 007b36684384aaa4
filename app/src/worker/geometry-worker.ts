/** The geometry worker as a browser begins it. */
import './kernel-place';
import './geometry';
