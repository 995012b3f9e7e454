import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { mainFrame, newGraphic, slotGroups, startHistory, type Graphic, type Slot } from '@bright-slot/core';
import { PlaceBar } from '../frame/place-bar';
import { Icon } from '../shared/icon';
import { GraphicsRepository, storageProblem, type GraphicEntry } from '../storage/graphics-repository';
import { DemoService } from './demo.service';
import { GraphicCard } from './graphic-card';
import { NewGraphicDialog } from './new-graphic-dialog';

@Component({
  selector: 'bs-graphics-page',
  imports: [PlaceBar, Icon, GraphicCard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './graphics-page.html',
  styleUrl: './graphics-page.scss',
})
export class GraphicsPage {
  private readonly repository = inject(GraphicsRepository);
  private readonly demo = inject(DemoService);
  private readonly dialogs = inject(MatDialog);
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);

  protected readonly entries = signal<readonly GraphicEntry[] | null>(null);
  protected readonly query = signal('');
  protected readonly sort = signal<'latest' | 'name'>('latest');
  protected readonly problem = signal('');

  protected readonly groups = computed(() => {
    const words = this.query().toLowerCase().replace(/×/g, 'x').split(/\s+/).filter(Boolean);
    const found = (this.entries() ?? []).filter(({ graphic }) => {
      const { slot } = mainFrame(graphic);
      const text = `${graphic.name} ${slot.name} ${slot.width}x${slot.height}`.toLowerCase();
      return words.every((w) => text.includes(w));
    });
    if (this.sort() === 'name') found.sort((a, b) => a.graphic.name.localeCompare(b.graphic.name));
    return slotGroups
      .map((name) => ({ name, entries: found.filter((e) => mainFrame(e.graphic).slot.group === name) }))
      .filter((g) => g.entries.length > 0);
  });

  constructor() {
    void this.start();
  }

  private async start(): Promise<void> {
    try {
      await this.demo.seedOnce();
    } catch {
      this.problem.set('The demo’s pictures could not be fetched from the site. Your own graphics are not affected.');
    }
    await this.reload();
  }

  private async reload(): Promise<void> {
    try {
      this.entries.set(await this.repository.list());
    } catch (error) {
      this.entries.set([]);
      this.problem.set(storageProblem(error).message);
    }
  }

  protected async make(): Promise<void> {
    const ref = this.dialogs.open<NewGraphicDialog, never, Slot>(NewGraphicDialog, {
      width: '760px',
      maxWidth: '94vw',
      autoFocus: 'first-tabbable',
    });
    const slot = await firstValueFrom(ref.afterClosed());
    if (!slot) return;
    const names = new Set((this.entries() ?? []).map((e) => e.graphic.name));
    let name = slot.name;
    for (let n = 2; names.has(name); n++) name = `${slot.name} ${n}`;
    await this.store(
      newGraphic({ id: crypto.randomUUID(), name, created: new Date().toISOString(), slot }),
      'Made',
      true,
    );
  }

  protected async duplicate({ graphic }: GraphicEntry): Promise<void> {
    const copy = {
      ...graphic,
      id: crypto.randomUUID(),
      name: `${graphic.name}, copy`,
      created: new Date().toISOString(),
      madeFrom: graphic.id,
    };
    await this.store(copy, `Made from ${graphic.name}`, false);
  }

  private async store(graphic: Graphic, step: string, open: boolean): Promise<void> {
    const history = startHistory(graphic, crypto.randomUUID(), Date.now(), step);
    try {
      await this.repository.save(history, Object.values(history.steps), Date.now());
      if (open) await this.router.navigate(['/graphics', graphic.id]);
      else await this.reload();
    } catch (error) {
      this.problem.set(storageProblem(error).message);
    }
  }

  protected async remove({ graphic }: GraphicEntry): Promise<void> {
    await this.repository.setDeleted(graphic.id, Date.now());
    await this.reload();
    const ref = this.snack.open(`“${graphic.name}” was deleted.`, 'Undo');
    ref.onAction().subscribe(() => void this.repository.setDeleted(graphic.id, undefined).then(() => this.reload()));
  }
}
