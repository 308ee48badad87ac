-- Who works on a site. A password is kept as its Argon2 hash; a link and a session as the SHA-256 of their names.
create table people (
  site text not null references sites,
  id text not null,
  name text not null,
  email text not null,
  roles text[] not null check (roles <@ array['author', 'editor', 'approver', 'developer'] and cardinality(roles) > 0),
  password text not null,
  shown_password text,                  -- only of the demo's accounts: stands on the sign-in page
  joined_at timestamptz not null default now(),
  left_at timestamptz,                  -- who has left signs in no more; what they did stays theirs
  primary key (site, id)
);
create unique index people_by_email on people (site, lower(email));

create table sessions (
  site text not null,
  id text not null,
  person text not null,
  began_at timestamptz not null default now(),
  seen_at timestamptz not null default now(),
  expires_at timestamptz not null,
  browser text not null default '',
  screen text not null default '',      -- which screen it is at, for the others to see
  here_until timestamptz,               -- has the workbench open, by its last sign of life
  primary key (site, id),
  foreign key (site, person) references people (site, id)
);
create index sessions_of_person on sessions (site, person);

create table invitations (
  site text not null references sites,
  id text not null,
  name text not null,
  roles text[] not null,
  by_person text not null,
  expires_at timestamptz not null,
  used_by text,
  primary key (site, id)
);

-- Attempts to sign in that failed, by whatever they are counted by (an e-mail address or an address of the network), hashed.
create table failed_sign_ins (
  site text not null references sites,
  who text not null,
  at timestamptz not null default clock_timestamp()
);
create index failed_sign_ins_lately on failed_sign_ins (site, who, at);

-- Who changed what, in words, with before and after. Nothing is ever taken out of it.
create table audit_trail (
  site text not null references sites,
  number bigint generated always as identity,
  at timestamptz not null default now(),
  person text not null,                 -- an id of people, or a word for what the product does by itself
  kind text not null,
  says text not null,
  before jsonb,
  after jsonb,
  primary key (site, number)
);
create index audit_trail_lately on audit_trail (site, number desc);

-- A change belongs to a person: undo takes back one's own.
alter table edits rename column session to person;
alter table releases rename column session to person;

-- Whether a release needs a second person.
alter table site_delivery add column second_person boolean not null default true;

-- Every key begins with the site.
alter table preview_passes drop constraint preview_passes_pkey, add primary key (site, id);
