/** The name of the worker that loads the mesh kernel at once: it makes what takes long. */
export const KERNEL = 'kernel';
