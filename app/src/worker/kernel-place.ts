/** Tells the mesh kernel where its program lies, as the application is built. */
import kernelUrl from 'manifold-3d/manifold.wasm?url';
import { kernelAt } from '@nematos/core/solid/kernel';

kernelAt(kernelUrl);
