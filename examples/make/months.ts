/** The tables of the two long reports: what dairies delivered, and what pumps did. */
import { Random } from "./random";

const two = (value: number) => String(value).padStart(2, "0");
const DAIRIES = ["Ash Vale", "Brook Farm", "Combe", "Dunley"] as const;
const GOODS = [
  ["milk", 0.92],
  ["butter", 7.4],
  ["cheese", 9.8],
  ["yoghurt", 2.6],
] as const;

/** Deliveries of four dairies over a year and a half: litres or kilograms, price, what came back and why. */
export function deliveryLines(): string[] {
  const random = new Random(91);
  const lines = ["delivery,day,dairy,goods,amount,price,returned,reason,round"];
  for (let delivery = 1; delivery <= 2400; delivery++) {
    const day = new Date(Date.UTC(2025, 0, 1) + Math.floor(random.next() * 546) * 86_400_000)
      .toISOString()
      .slice(0, 10);
    const [goods, price] = random.pick(GOODS);
    const amount = random.whole(12, 220);
    const returned = random.next() < 0.18 ? random.whole(1, Math.ceil(amount / 6)) : 0;
    const reason = returned ? random.pick(["late", "warm", "leaking", "not ordered"]) : "";
    const asked = (price * random.between(0.94, 1.08)).toFixed(2);
    lines.push(
      [
        delivery,
        day,
        random.pick(DAIRIES),
        goods,
        amount,
        asked,
        returned,
        reason,
        random.pick(["north", "south", "town"]),
      ].join(","),
    );
  }
  return lines;
}

/** Two weeks of five pumps of a water works, every half hour: flow, pressure, power. */
export function pumpLines(): string[] {
  const random = new Random(92);
  const lines = ["time,pump,flow_ls,pressure_bar,power_kw"];
  for (let half = 0; half < 14 * 48; half++)
    for (let pump = 1; pump <= 5; pump++) {
      const hour = (half % 48) / 2;
      const wanted = 34 + 16 * Math.sin(((hour - 6) / 24) * 2 * Math.PI) + pump * 2;
      const stands = pump === 4 && half > 300 && half < 360;
      const flow = stands ? 0 : Math.max(0, wanted + random.normal() * 2);
      const pressure = 4.2 + flow / 40 + random.normal() * 0.05;
      const power = stands ? 0.2 : flow * pressure * 0.14 + random.normal() * 0.3;
      const day = new Date(Date.UTC(2026, 2, 2) + half * 1_800_000).toISOString();
      lines.push(
        [
          `${day.slice(0, 10)} ${day.slice(11, 16)}`,
          `Pump ${two(pump)}`,
          flow.toFixed(1),
          pressure.toFixed(2),
          power.toFixed(2),
        ].join(","),
      );
    }
  return lines;
}
