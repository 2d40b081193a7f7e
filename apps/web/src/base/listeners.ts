/** Who wants to hear of something that happens again and again. */
export class Listeners<Told extends readonly unknown[]> {
  private readonly all = new Set<(...told: Told) => void>();

  get isEmpty(): boolean {
    return this.all.size === 0;
  }

  /** Answers how to stop. */
  add(listener: (...told: Told) => void): () => void {
    this.all.add(listener);
    return () => this.all.delete(listener);
  }

  tell(...told: Told): void {
    this.all.forEach((listener) => listener(...told));
  }
}
