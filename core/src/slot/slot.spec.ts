import { Slot, filePixels, sizeText } from './slot';
import { slotsToStart, typedSlot } from './slots-to-start';

describe('filePixels', () => {
  it.each([
    [940, 198, 1, 940, 198],
    [940, 198, 2, 1880, 396],
    [517.5, 600, 1, 518, 600],
    [251.25, 292.5, 2, 503, 585],
    [333.14, 100, 1, 334, 100],
  ])('%d × %d at %d× needs %d × %d', (width, height, density, w, h) => {
    expect(filePixels({ width, height }, density)).toEqual({ width: w, height: h });
  });
  it('adds no pixel for float noise', () => {
    expect(filePixels({ width: 0.1 * 3 * 1000, height: 1 }, 1).width).toBe(300);
  });
});

describe('slots to start from', () => {
  it('are valid, dated and told where they come from', () => {
    for (const slot of slotsToStart) {
      expect(Slot.parse(slot)).toEqual(slot);
      expect(slot.source).toContain('check with your site');
    }
    expect(new Set(slotsToStart.map((s) => s.id)).size).toBe(slotsToStart.length);
  });
  it.each([
    ['blog-header', '940 × 198'],
    ['slim-header', '960 × 100'],
    ['form-header', '1600 × 400'],
    ['page-cover', '851 × 315'],
    ['profile-banner', '1584 × 396'],
    ['chat-avatar', '128 × 128'],
    ['logo', '512 × 512'],
    ['link-card', '1200 × 630'],
  ])('%s is %s', (id, size) => expect(sizeText(slotsToStart.find((s) => s.id === id)!)).toBe(size));
});

describe('a typed slot', () => {
  it('takes a width and a height', () => {
    const typed = typedSlot(666, 134);
    expect(typed.ok && sizeText(typed.value)).toBe('666 × 134');
  });
  it.each([
    [0, 10, 'width'],
    [-5, 10, 'width'],
    [10, NaN, 'height'],
    [10, Infinity, 'height'],
    [9000, 10, '8192'],
  ])('refuses %d × %d in words', (w, h, word) => {
    const typed = typedSlot(w, h);
    expect(!typed.ok && typed.problem.message).toContain(word);
  });
});
