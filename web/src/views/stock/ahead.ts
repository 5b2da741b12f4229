/** The days after today on which more, or less, can be promised than on the day before. */
export function steps(promisable: number[], today: string) {
  return promisable
    .map((units, day) => ({ day, units, date: later(today, day) }))
    .filter(({ day, units }) => day > 0 && units !== promisable[day - 1]);
}

function later(today: string, days: number): string {
  const date = new Date(`${today}T00:00:00Z`);
  date.setUTCDate(date.getUTCDate() + days);
  return date.toISOString().slice(0, 10);
}
