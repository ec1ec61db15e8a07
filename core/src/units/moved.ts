/** Where something was moved to, in its own unit. It is handed over as it is kept: a fraction by itself would be an object anew. */
export interface Moved {
  value: number;
}
