/** The first employer of the demo opens as soon as its year is played; while the demo plays another, nobody else works in it. */
export const beingPlayed = `
alter table employers add column being_played boolean not null default false;
`;
