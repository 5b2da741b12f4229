/** The days after today on which more, or less, can be promised than on the day before. */
export function steps(promisable: number[], today = new Date()) {
  return promisable
    .map((units, day) => ({ day, units, date: isoDay(today, day) }))
    .filter(({ day, units }) => day > 0 && units !== promisable[day - 1]);
}

function isoDay(today: Date, later: number): string {
  const date = new Date(today.getFullYear(), today.getMonth(), today.getDate() + later, 12);
  return `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
}
