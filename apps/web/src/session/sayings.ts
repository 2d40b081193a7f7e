import { Listeners } from '../base';

/** What the artist should know of the page, each in a sentence; what is said before anybody listens waits for them. */
export class Sayings {
  private readonly unheard: string[] = [];
  private readonly listeners = new Listeners<[message: string]>();
  /** What is not to be said again, by what it is about. */
  private readonly said = new Map<string, string>();

  /** Answers how to stop. */
  on(listener: (message: string) => void): () => void {
    for (const message of this.unheard.splice(0)) listener(message);
    return this.listeners.add(listener);
  }

  say(message: string): void {
    if (this.listeners.isEmpty) this.unheard.push(message);
    else this.listeners.tell(message);
  }

  /** Says it unless it was the last thing said about the same. */
  sayOnce(about: string, message: string): void {
    if (this.said.get(about) !== message) this.say(message);
    this.said.set(about, message);
  }

  /** What it was about is well again, and may be said anew. */
  forget(about: string): void {
    this.said.delete(about);
  }
}
