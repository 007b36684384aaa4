/** What is waited for a while with. */
export type Timer = ReturnType<typeof setTimeout>;
