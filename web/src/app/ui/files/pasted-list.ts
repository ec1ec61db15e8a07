import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { boundedList } from '@pentachord/core/library';

/** Bytes of a file that are read. */
const MOST_DROPPED = 2_000_000;

/** A list of lines that is pasted, typed or dropped as a file, of which no more is taken than can be looked at. */
@Component({
  selector: 'pc-pasted-list',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label>{{ label() }}</mat-label>
      <textarea
        #box
        matInput
        class="mono"
        [rows]="rows()"
        [value]="text()"
        (input)="typed(box)"
        (dragover)="$event.preventDefault()"
        (drop)="dropped($event)"
        (keydown)="$event.stopPropagation()"
      ></textarea>
    </mat-form-field>
  `,
  styles: `
    :host,
    mat-form-field {
      display: grid;
    }
  `,
})
export class PastedList {
  readonly label = input.required<string>();
  readonly rows = input(7);
  /** Letters of a line that are taken. */
  readonly longestLine = input<number>();
  readonly text = model('');

  /** Takes what a file holds. */
  async read(file: Blob): Promise<void> {
    // As much as is looked at, and a little more: a file of any size is not read whole.
    this.text.set(this.bounded(await file.slice(0, MOST_DROPPED).text()));
  }

  protected dropped(event: DragEvent): void {
    const file = event.dataTransfer?.files.item(0);
    if (!file) return;
    event.preventDefault();
    void this.read(file);
  }

  protected typed(box: HTMLTextAreaElement): void {
    const text = this.bounded(box.value);
    // Before it is laid out: a line of a megabyte would take the browser minutes.
    if (text !== box.value) box.value = text;
    this.text.set(text);
  }

  private bounded(text: string): string {
    return boundedList(text, this.longestLine());
  }
}
