import { DecimalPipe, formatDate } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import {
  kindInWords,
  type Backup,
  type BackupContent,
  type BackupReason,
  type Damaged,
  type Keeping,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { loading } from '../state/loading/loading';
import type { AppState } from '../state/reducers';
import { selectSavingState } from '../state/saving/selectors';
import { selectLoading } from '../state/selectors';
import { OtherWindows } from '../state/saving/other-windows';
import { StatusLine } from '../state/session/status-line';
import { Dialogs } from '../ui/dialogs/dialogs';
import { BackupsApi } from './backups-api';

const REASONS: Record<BackupReason, string> = {
  start: 'at the start',
  changes: 'after changes',
  migration: 'before a new version’s tables',
  'bringing-back': 'before another was brought back',
  asked: 'you asked for it',
};

/** Days and times of backups, as they are told. */
const WHEN = 'EEE d MMM y, HH:mm:ss';

/** The backups: what is in them, how it differs from now, and bringing one back. What is damaged on the disk stands first. */
@Component({
  selector: 'pc-backups-view',
  imports: [DecimalPipe, MatButtonModule, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './backups-view.html',
  styleUrl: './backups-view.scss',
})
export class BackupsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly api = inject(BackupsApi);
  private readonly dialogs = inject(Dialogs);
  private readonly status = inject(StatusLine);
  private readonly others = inject(OtherWindows);
  protected readonly kindInWords = kindInWords;
  protected readonly columns = ['at', 'reason', 'bytes', 'deeds'];
  protected readonly keeping = signal<Keeping | null>(null);
  protected readonly looked = signal<{ backup: Backup; content: BackupContent } | null>(null);
  protected readonly problem = signal('');
  protected readonly busy = signal(false);
  private readonly opening = this.store.selectSignal(selectLoading);
  private readonly saving = this.store.selectSignal(selectSavingState);
  /** Bringing a backup back would take what is not saved along. */
  protected readonly unsaved = computed(
    () => this.opening().status === 'open' && this.saving().state !== 'saved',
  );

  constructor() {
    void this.doing(() => this.api.keeping());
  }

  protected reasonOf({ reason }: Backup): string {
    return REASONS[reason];
  }

  protected whenOf({ at }: Backup): string {
    return formatDate(at, WHEN, 'en-US');
  }

  /** When the backup of a file name was made. */
  protected timeOf(name: string): string {
    const backup = this.keeping()?.backups.find((one) => one.name === name);
    return backup ? this.whenOf(backup) : '';
  }

  protected async makeOne(): Promise<void> {
    if (await this.doing(() => this.api.makeOne())) this.status.say('The newest backup holds all.');
  }

  protected async look(backup: Backup): Promise<void> {
    await this.doing(async () => {
      this.looked.set({ backup, content: await this.api.look(backup.name) });
      return null;
    });
  }

  protected async bringBack(backup: Backup): Promise<void> {
    const { BringBackDialog } = await import('./bring-back-dialog');
    const sure = await this.dialogs.open<string, boolean>(BringBackDialog, {
      data: this.whenOf(backup),
    });
    if (!sure || !(await this.doing(() => this.api.bringBack(backup.name)))) return;
    this.looked.set(null);
    this.reopen(`Brought back ${this.whenOf(backup)}.`);
  }

  protected async bringThingBack({ kind, id, name }: Damaged, backup: string): Promise<void> {
    if (await this.doing(() => this.api.bringThingBack(backup, kind, id)))
      this.reopen(`Brought back “${name}”.`);
  }

  private reopen(words: string): void {
    this.others.tellExchanged();
    this.store.dispatch(loading.asked());
    this.status.say(words);
  }

  /** Does something that the server answers; gives back whether it went well. What went wrong is shown. */
  private async doing(work: () => Promise<Keeping | null>): Promise<boolean> {
    this.busy.set(true);
    this.problem.set('');
    try {
      const state = await work();
      if (state) this.keeping.set(state);
      return true;
    } catch (error) {
      this.problem.set(error instanceof Error ? error.message : String(error));
      return false;
    } finally {
      this.busy.set(false);
    }
  }
}
