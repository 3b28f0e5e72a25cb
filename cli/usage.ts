/** Wrong use of the command line, as against a piece that has a fault. */
export class UsageError extends Error {}
