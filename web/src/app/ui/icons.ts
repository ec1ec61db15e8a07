import { inject } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import add from '@material-symbols/svg-400/outlined/add.svg';
import arrowDown from '@material-symbols/svg-400/outlined/arrow_downward.svg';
import arrowUp from '@material-symbols/svg-400/outlined/arrow_upward.svg';
import brightness from '@material-symbols/svg-400/outlined/brightness_6.svg';
import copy from '@material-symbols/svg-400/outlined/content_copy.svg';
import lock from '@material-symbols/svg-400/outlined/lock.svg';
import lockOpen from '@material-symbols/svg-400/outlined/lock_open.svg';
import more from '@material-symbols/svg-400/outlined/more_vert.svg';
import minus from '@material-symbols/svg-400/outlined/remove.svg';
import piano from '@material-symbols/svg-400/outlined/piano.svg';
import redo from '@material-symbols/svg-400/outlined/redo.svg';
import remove from '@material-symbols/svg-400/outlined/delete.svg';
import songs from '@material-symbols/svg-400/outlined/format_list_numbered.svg';
import star from '@material-symbols/svg-400/outlined/star.svg';
import tune from '@material-symbols/svg-400/outlined/tune.svg';
import undo from '@material-symbols/svg-400/outlined/undo.svg';

const ICONS = {
  ...{
    add,
    arrowDown,
    arrowUp,
    brightness,
    copy,
    lock,
    lockOpen,
    minus,
    more,
    piano,
    redo,
    remove,
  },
  ...{ songs, star, tune, undo },
};

/** Makes the icons known to Material; they ship within the script, so none is fetched. */
export function registerIcons(): void {
  const registry = inject(MatIconRegistry);
  const sanitizer = inject(DomSanitizer);
  for (const [name, svg] of Object.entries(ICONS))
    registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
}
