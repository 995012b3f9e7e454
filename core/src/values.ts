import './zod-setup';
import * as z from 'zod';

/** A colour as `#rrggbb`, encoded sRGB. */
export const Colour = z.string().regex(/^#[0-9a-f]{6}$/);

/** SHA-256 of an asset's bytes, in hex: the asset's name everywhere. */
export const AssetHash = z.string().regex(/^[0-9a-f]{64}$/);

/** A part of a whole, 0 to 1. */
export const Share = z.number().min(0).max(1);
