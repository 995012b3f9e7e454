import { ChangeDetectionStrategy, Component, Injectable, inject, input } from '@angular/core';
import { MatIcon, MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import undo from '@mdi/svg/svg/undo.svg';
import redo from '@mdi/svg/svg/redo.svg';
import magnify from '@mdi/svg/svg/magnify.svg';
import plus from '@mdi/svg/svg/plus.svg';
import eye from '@mdi/svg/svg/eye-outline.svg';
import eyeOff from '@mdi/svg/svg/eye-off-outline.svg';
import trash from '@mdi/svg/svg/trash-can-outline.svg';
import image from '@mdi/svg/svg/image-outline.svg';
import text from '@mdi/svg/svg/format-text.svg';
import left from '@mdi/svg/svg/format-align-left.svg';
import centre from '@mdi/svg/svg/format-align-center.svg';
import right from '@mdi/svg/svg/format-align-right.svg';
import italic from '@mdi/svg/svg/format-italic.svg';
import back from '@mdi/svg/svg/arrow-left.svg';
import close from '@mdi/svg/svg/close.svg';
import check from '@mdi/svg/svg/check.svg';
import dots from '@mdi/svg/svg/dots-horizontal.svg';
import lock from '@mdi/svg/svg/lock-outline.svg';
import unlock from '@mdi/svg/svg/lock-open-variant-outline.svg';
import copy from '@mdi/svg/svg/content-copy.svg';
import rename from '@mdi/svg/svg/pencil-outline.svg';
import open from '@mdi/svg/svg/open-in-new.svg';
import crop from '@mdi/svg/svg/crop.svg';
import minus from '@mdi/svg/svg/minus.svg';
import chevron from '@mdi/svg/svg/chevron-right.svg';
import shapes from '@mdi/svg/svg/shape-outline.svg';
import steps from '@mdi/svg/svg/history.svg';
import keyboard from '@mdi/svg/svg/keyboard-outline.svg';
import monitor from '@mdi/svg/svg/monitor-screenshot.svg';
import ruler from '@mdi/svg/svg/ruler.svg';
import ratio from '@mdi/svg/svg/aspect-ratio.svg';
import mosaic from '@mdi/svg/svg/view-quilt-outline.svg';
import strip from '@mdi/svg/svg/view-column-outline.svg';
import flipAcross from '@mdi/svg/svg/flip-horizontal.svg';
import flipDown from '@mdi/svg/svg/flip-vertical.svg';
import turnLeft from '@mdi/svg/svg/rotate-left.svg';
import turnRight from '@mdi/svg/svg/rotate-right.svg';
import reset from '@mdi/svg/svg/restore.svg';
import link from '@mdi/svg/svg/link-variant.svg';
import veil from '@mdi/svg/svg/gradient-vertical.svg';
import shape from '@mdi/svg/svg/rectangle-outline.svg';
import plant from '@mdi/svg/svg/flower-outline.svg';
import edgeLeft from '@mdi/svg/svg/align-horizontal-left.svg';
import middleAcross from '@mdi/svg/svg/align-horizontal-center.svg';
import edgeRight from '@mdi/svg/svg/align-horizontal-right.svg';
import edgeTop from '@mdi/svg/svg/align-vertical-top.svg';
import middleDown from '@mdi/svg/svg/align-vertical-center.svg';
import edgeFoot from '@mdi/svg/svg/align-vertical-bottom.svg';
import gapsAcross from '@mdi/svg/svg/align-horizontal-distribute.svg';
import gapsDown from '@mdi/svg/svg/align-vertical-distribute.svg';
import asWide from '@mdi/svg/svg/arrow-expand-horizontal.svg';
import asHigh from '@mdi/svg/svg/arrow-expand-vertical.svg';
import inMiddle from '@mdi/svg/svg/image-filter-center-focus-weak.svg';
import toSelection from '@mdi/svg/svg/magnify-expand.svg';
import group from '@mdi/svg/svg/group.svg';
import fold from '@mdi/svg/svg/chevron-down.svg';

const icons = {
  veil,
  shape,
  undo,
  redo,
  magnify,
  plus,
  eye,
  'eye-off': eyeOff,
  trash,
  image,
  text,
  left,
  centre,
  right,
  italic,
  back,
  close,
  check,
  dots,
  lock,
  unlock,
  copy,
  rename,
  open,
  crop,
  minus,
  chevron,
  shapes,
  steps,
  keyboard,
  monitor,
  ruler,
  ratio,
  mosaic,
  strip,
  'flip-across': flipAcross,
  'flip-down': flipDown,
  'turn-left': turnLeft,
  'turn-right': turnRight,
  reset: reset,
  link: link,
  plant: plant,
  'edge-left': edgeLeft,
  'middle-across': middleAcross,
  'edge-right': edgeRight,
  'edge-top': edgeTop,
  'middle-down': middleDown,
  'edge-foot': edgeFoot,
  'gaps-across': gapsAcross,
  'gaps-down': gapsDown,
  'as-wide': asWide,
  'as-high': asHigh,
  'to-selection': toSelection,
  'in-middle': inMiddle,
  group: group,
  fold: fold,
};
export type IconName = keyof typeof icons;

@Injectable({ providedIn: 'root' })
class Icons {
  constructor() {
    const registry = inject(MatIconRegistry);
    const sanitizer = inject(DomSanitizer);
    // The texts are our own build's, not anyone's input.
    for (const [name, svg] of Object.entries(icons))
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
  }
}

/** A decorative icon; what it means is said by the control it stands in. */
@Component({
  selector: 'bs-icon',
  imports: [MatIcon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<mat-icon [svgIcon]="name()" aria-hidden="true" />',
  styles: ':host { display: inline-flex; } mat-icon { width: 18px; height: 18px; line-height: 18px; font-size: 18px; }',
})
export class Icon {
  readonly name = input.required<IconName>();
  private readonly icons = inject(Icons);
}
