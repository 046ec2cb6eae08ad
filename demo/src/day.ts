const DAY = 86_400_000;

/** The hour Saltmarsh Row opens, and hours it is open. */
const OPENS = 8.5;
const OPEN_HOURS = 9;

const at = (day: Date, hours: number) => day.setHours(0, Math.round(hours * 60), 0, 0);

/** When the workshop opens on the day of an instant, local, epoch ms. */
export function morning(instant: number): number {
  return at(new Date(instant), OPENS);
}

/** When it opens on the Monday nearest to an instant: a batch begun then is ground by Friday and poured the week after. */
export function monday(instant: number): number {
  const ahead = (8 - new Date(instant).getDay()) % 7;
  return morning(instant + (ahead > 3 ? ahead - 7 : ahead) * DAY);
}

/** An instant of the same day while the workshop is open, in the order of the instants. */
export function whileOpen(instant: number): number {
  const day = new Date(instant);
  const passed = (day.getHours() + day.getMinutes() / 60) / 24;
  return at(day, OPENS + OPEN_HOURS * passed);
}

/** Whether somebody is there, early risers included. */
export function isAttended(instant: number): boolean {
  const hour = new Date(instant).getHours();
  return hour >= 7 && hour < 20;
}
