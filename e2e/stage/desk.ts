import { expect, type Locator, type Page } from '@playwright/test';

/** The desk as a player sees it. */
export class Desk {
  constructor(readonly page: Page) {}

  /** Opens a song from the running order and waits until its patch and its sounds are there. */
  async openSong(name: string): Promise<void> {
    await this.page.getByRole('button', { name, exact: true }).click();
    await this.soundsReady();
  }

  /** Sound on and every sound made. */
  async soundsReady(): Promise<void> {
    const voices = this.page.getByTestId('voices');
    // Any key turns sound on; pressed again until the desk is there to hear it.
    await expect(async () => {
      await this.page.keyboard.press('Shift');
      await expect(this.page.getByRole('button', { name: 'Start sound' })).toHaveCount(0);
      await expect(voices.or(this.page.getByText(/^making/))).toBeVisible({ timeout: 500 });
    }).toPass();
    await expect(voices).toBeVisible({ timeout: 30_000 });
  }

  /** How loud a layer's meter stands, 0–100. */
  async layerMeter(name: string): Promise<number> {
    const meter = this.page.locator(`[data-meter="${name}"]`);
    return Number(await meter.getAttribute('aria-valuenow'));
  }

  /** How loud the analyser finds the output, 0–100. */
  async output(): Promise<number> {
    const meter = this.page.getByRole('meter', { name: 'Output level' });
    return Number(await meter.getAttribute('aria-valuenow'));
  }

  /** Waits until nothing sounds any more. */
  async quiet(): Promise<void> {
    await expect(this.page.getByTestId('voices')).toHaveText('0 voices', { timeout: 15_000 });
    await expect.poll(() => this.output(), { timeout: 15_000 }).toBe(0);
  }

  remark(words: string | RegExp): Locator {
    return this.page.getByRole('list', { name: 'Remarks' }).getByText(words);
  }

  field(label: string): Locator {
    return this.page.getByRole('spinbutton', { name: label, exact: true });
  }

  async saved(): Promise<void> {
    await expect(this.page.getByTestId('saving')).toHaveText('saved');
  }

  /** What Trace says of a layer. */
  trace(layer: string): Locator {
    return this.page.locator(`pc-trace-panel li[data-layer="${layer}"]`);
  }
}
