import { EventEmitter } from 'node:events';

/** Says which campaigns' jobs moved on, within this process. */
export class JobEvents {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  changed(campaign: string): void {
    this.emitter.emit(campaign);
  }

  /** @returns what ends the listening. */
  listen(campaign: string, heard: () => void): () => void {
    this.emitter.on(campaign, heard);
    return () => void this.emitter.off(campaign, heard);
  }
}
