import type { Layer } from '../graphic/graphic';
import type { Device } from '../slot/shown';

/** How a layer is called in a finding: words by what they are named, in quotes. */
export const called = (layer: Pick<Layer, 'role' | 'name'>): string =>
  layer.role === 'words' ? `“${layer.name}”` : layer.name;

/** "On a phone": where something is seen. */
export const onDevice: Record<Device, string> = { desktop: 'On a desktop', tablet: 'On a tablet', phone: 'On a phone' };
