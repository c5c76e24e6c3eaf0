/** Passkeys (WebAuthn) beside the authenticator, and the challenges they answer, each once. */
export const passkeys = `
create table passkeys (
  id text primary key,
  user_id uuid not null references users on delete cascade,
  public_key bytea not null,
  counter bigint not null,
  transports jsonb not null default '[]',
  label text not null,
  added_at timestamptz not null default now(),
  used_at timestamptz
);
create index passkeys_user on passkeys (user_id);
-- What a change that waits would put on the record: the second person sees what they confirm.
alter table held_changes add column entries jsonb not null default '[]';

create table passkey_challenges (
  challenge text primary key,
  user_id uuid not null references users on delete cascade,
  expires_at timestamptz not null
);
`;
