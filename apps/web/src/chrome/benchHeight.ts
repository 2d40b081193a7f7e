/** CSS px that the closed bench covers at the foot of a phone: its line of settings, its tools, its thread of stages. */
export const BENCH_HEIGHT = 172;
