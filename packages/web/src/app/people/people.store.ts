import { createPageStore } from '../api/page-store';

export const peopleStore = createPageStore('people', 'people');
export const groupsStore = createPageStore('groups', 'groups');
export const personStore = createPageStore('person', 'person');
/** Schedules, places and the country's forms: what the people's pages choose from. */
export const employerStore = createPageStore('employer', 'employer');
