/** A quick run tries properties a fifth as often, where nothing else is said. */
process.env.RUNS ??= '0.2';
