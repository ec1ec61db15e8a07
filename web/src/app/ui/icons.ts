import { inject } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import add from '@material-symbols/svg-400/outlined/add.svg';
import arrowDown from '@material-symbols/svg-400/outlined/arrow_downward.svg';
import arrowUp from '@material-symbols/svg-400/outlined/arrow_upward.svg';
import copy from '@material-symbols/svg-400/outlined/content_copy.svg';
import more from '@material-symbols/svg-400/outlined/more_vert.svg';
import piano from '@material-symbols/svg-400/outlined/piano.svg';
import redo from '@material-symbols/svg-400/outlined/redo.svg';
import remove from '@material-symbols/svg-400/outlined/delete.svg';
import star from '@material-symbols/svg-400/outlined/star.svg';
import tune from '@material-symbols/svg-400/outlined/tune.svg';
import undo from '@material-symbols/svg-400/outlined/undo.svg';

const ICONS = { add, arrowDown, arrowUp, copy, more, piano, redo, remove, star, tune, undo };

/** Makes the icons known to Material; they ship within the script, so none is fetched. */
export function registerIcons(): void {
  const registry = inject(MatIconRegistry);
  const sanitizer = inject(DomSanitizer);
  for (const [name, svg] of Object.entries(ICONS))
    registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
}
