/** Passwords that can be changed and reset, second factors, one-time links, rights given singly, changes held for a second person. */
export const signingIn = `
alter table users add column totp_sealed bytea, add column totp_confirmed_at timestamptz, add column totp_last_step bigint,
  add column recovery_hashes jsonb not null default '[]', add column password_changed_at timestamptz;

-- Links that were sent by mail. Only a hash of each is kept; each is used once.
create table user_links (
  token_hash text primary key,
  kind text not null check (kind in ('reset', 'invitation')),
  user_id uuid not null references users on delete cascade,
  employer_id uuid references employers,
  expires_at timestamptz not null,
  used_at timestamptz,
  created_at timestamptz not null default now()
);
create index user_links_user on user_links (user_id);

-- Browsers and addresses from which somebody has signed in: they are not locked out by what others try.
create table known_devices (
  user_id uuid not null references users on delete cascade,
  device text not null,
  seen_at timestamptz not null default now(),
  primary key (user_id, device)
);

-- Failed attempts, by account, address and browser (rate-limiter-flexible).
create table sign_in_attempts (key varchar(255) primary key, points integer not null default 0, expire bigint);

-- Rights given singly take the place of the role's; until an invitation is accepted there is no right at all.
alter table memberships add column rights text[], add column accepted_at timestamptz default now();

alter table outbox alter column employer_id drop not null, drop constraint outbox_kind_check,
  add constraint outbox_kind_check check (kind in ('payslip', 'register', 'summary', 'invitation', 'reset') and (run_id is null) = (kind in ('invitation', 'reset')));

-- What one person asked for and a second one has to confirm; sealed, for it may hold bank numbers.
create table held_changes (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  endpoint text not null,
  kind text not null,
  what text not null,
  sealed bytea not null,
  user_id uuid not null references users,
  at timestamptz not null default now(),
  state text not null default 'waiting' check (state in ('waiting', 'confirmed', 'declined')),
  decided_by uuid references users,
  decided_at timestamptz,
  reason text not null default '',
  check ((state = 'waiting') = (decided_by is null)),
  check (decided_by is distinct from user_id or state = 'declined')
);
create index held_changes_waiting on held_changes (employer_id) where state = 'waiting';
-- Said when the demo's year was played to its end; what was there before was whole.
create table demo_played (whole boolean primary key default true check (whole), at timestamptz not null default now());
insert into demo_played (whole) select true where exists (select 1 from employers);

-- An address that changes opens nothing any more: who was invited there is invited anew.
create function end_access_of_old_address() returns trigger language plpgsql as $$
begin
  delete from user_sessions s using memberships m where m.person_id = new.id and s.sess->>'userId' = m.user_id::text
    and not exists (select 1 from memberships o where o.user_id = m.user_id and o.employer_id <> m.employer_id);
  delete from memberships m using users u where m.person_id = new.id and u.id = m.user_id and u.email is distinct from lower(new.email);
  return null;
end $$;
create trigger address_changes after update of email on people for each row when (lower(old.email) is distinct from lower(new.email)) execute function end_access_of_old_address();

create index user_sessions_user on user_sessions ((sess->>'userId'));
`;
