/** Why more or fewer were found than were on record. */
export const WHY = {
  LOST: 'not found',
  FOUND: 'found',
  DAMAGED: 'damaged',
  MISLAID: 'lay in a wrong bin',
  MISTAKE: 'booked wrongly before',
  OTHER: 'another reason'
} as const;
