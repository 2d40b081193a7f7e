
import { onMain } from './trace';
import { movesIn } from './latency';
export function selfs(events: any[], n: number) {
  const time = movesIn(events); time.until += 1e6 as never;
  const isMain = onMain(events);
  const total = new Map<string, number>(); const incl = new Map<string, number>();
  for (const p of events.filter((e) => e.name === 'Profile' && e.id && isMain(e))) {
    let at = p.args?.data?.startTime ?? 0; const nodes = new Map<number, any>(); let last: any;
    for (const e of events.filter((x) => x.name === 'ProfileChunk' && x.pid === p.pid && x.id === p.id).sort((a, b) => a.ts - b.ts)) {
      const d = e.args?.data;
      for (const m of d?.cpuProfile?.nodes ?? []) nodes.set(m.id, { name: `${m.callFrame.functionName || '(anon)'}:${m.callFrame.lineNumber ?? ''}`, parent: m.parent });
      (d?.cpuProfile?.samples ?? []).forEach((id: number, k: number) => {
        at += d?.timeDeltas?.[k] ?? 0;
        if (last && last.at >= time.from && last.at <= time.until) { const ms = (at - last.at) / 1e3; const m = nodes.get(last.id); if (m && m.name !== '(idle):-1') { total.set(m.name, (total.get(m.name) ?? 0) + ms);
          const seen = new Set<string>(); for (let q = m; q; q = nodes.get(q.parent)) { if (!seen.has(q.name)) incl.set(q.name, (incl.get(q.name) ?? 0) + ms); seen.add(q.name); } } }
        last = { id, at };
      });
    }
  }
  const show = (m: Map<string, number>, t: string, k = 30) => { console.log(t); for (const [key, v] of [...m].sort((a, b) => b[1] - a[1]).slice(0, k)) console.log(`   ${(v / n).toFixed(2)} ${key}`); };
  show(total, 'self', 16); show(incl, 'inclusive', 40);
}
