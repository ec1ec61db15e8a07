import { config } from 'zod';

// Otherwise the first schema tries whether code may be made from text; the page's policy says no, and reports it.
config({ jitless: true });
