import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatInput } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../../state/editing/patch-editing';
import type { AppState } from '../../state/reducers';
import { selectUndo } from '../../state/editing/selectors';
import {
  selectBalancedCue,
  selectCue,
  selectPatch,
  selectPatchesOfSong,
  selectPatchSong,
} from '../../state/selectors';
import { session } from '../../state/session/session';
import { Undoing } from '../../state/session/undoing';
import { Roving, RovingItem } from '../../ui/focus/roving';
import { NameField } from '../../ui/names/name-field';
import { PatchCommands } from '../patch-commands';
import { PatchActions } from '../patch-actions';
import { Tip } from '../../ui/tips/tip';

/** The heading of the Patch view: where it is, its name, and what can be done with all of it. */
@Component({
  selector: 'pc-patch-heading',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatInput,
    MatMenuModule,
    Tip,
    NameField,
    Roving,
    RovingItem,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patch-heading.html',
  styleUrl: './patch-heading.scss',
})
export class PatchHeading {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly editing = inject(PatchEditing);
  protected readonly actions = inject(PatchActions);
  protected readonly commands = inject(PatchCommands);
  protected readonly arrange = this.commands.of('arrange');
  protected readonly more = this.commands.of('patch');
  protected readonly patch = this.store.selectSignal(selectPatch);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  private readonly cue = this.store.selectSignal(selectCue);
  protected readonly cueName = computed(() => {
    const cue = this.cue();
    return cue && cue.patchId === this.patch()?.id ? cue.name : null;
  });
  private readonly balanced = this.store.selectSignal(selectBalancedCue);
  /** What is on the desk. */
  protected readonly balance = computed(() => (this.balanced() ? 'cue' : 'written'));
  protected readonly patches = this.store.selectSignal(selectPatchesOfSong);
  protected readonly undo = this.store.selectSignal(selectUndo);
  protected readonly undoing = inject(Undoing);

  protected openPatch(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
  }
}
