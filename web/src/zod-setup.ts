import * as z from 'zod';

// Zod's compiler probes for `eval`, which the Content-Security-Policy refuses; this has to run before any schema is made.
z.config({ jitless: true });
