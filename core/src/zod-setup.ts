import * as z from 'zod';

// Zod's compiler probes for `eval`, which a strict Content-Security-Policy refuses; this runs before any schema is made.
z.config({ jitless: true });
