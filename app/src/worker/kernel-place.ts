/** Tells the mesh kernel where its program lies, as the application is built; where it is sure to be used it is loaded. */
import kernelUrl from 'manifold-3d/manifold.wasm?url';
import { kernel, kernelAt } from '@nematos/core/solid/kernel/kernel';
import { KERNEL } from './kernel-name';

kernelAt(kernelUrl);
if (self.name === KERNEL) kernel().catch(() => undefined); // told when it is needed
