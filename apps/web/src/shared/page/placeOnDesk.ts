/** What an activity is called in the address of a desk, after its #. */
export const placeOnDesk = (project: string, activity: string): string => `work ${project} ${activity}`;
