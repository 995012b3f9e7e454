import type { Size } from '@bright-slot/core';

/** A tile in a set's table is so high, and so wide at most, px. */
export const TILE_HEIGHT = 46;
export const TILE_WIDEST = 120;

/** How wide a tile of a size stands in the table, px. */
export const tileWidth = ({ width, height }: Size): number => Math.min(TILE_WIDEST, (TILE_HEIGHT * width) / height);
