-- Every key begins with the site, so that the tables can be distributed by site when one server is outgrown.
create table sites (
  site text primary key,
  name text not null,
  settings jsonb not null,              -- zone, currency, language, origin, data fields, search sources …
  version bigint not null default 1,    -- of the whole draft: grows with every edit
  created_at timestamptz not null default now()
);

create table pages (
  site text not null references sites,
  path text not null,
  position integer not null,
  title text not null,
  facts jsonb not null default '{}',    -- id, category, tags, language: what the site tells of the page
  primary key (site, path)
);

create table slots (
  site text not null references sites,
  id text not null,
  position integer not null,
  body jsonb not null,
  version bigint not null default 1,
  primary key (site, id)
);

create table variants (
  site text not null,
  id text not null,
  slot text not null,
  position integer not null,
  body jsonb not null,
  version bigint not null default 1,
  primary key (site, id),
  foreign key (site, slot) references slots (site, id) on delete cascade deferrable initially deferred
);

create table block_types (site text not null references sites, id text not null, position integer not null, body jsonb not null, version bigint not null default 1, primary key (site, id));
create table place_lists (like block_types including all);
create table audiences (like block_types including all);
create table markers (like block_types including all);
create table popups (like block_types including all);
create table offers (like block_types including all);
create table redirects (like block_types including all);
alter table place_lists add foreign key (site) references sites;
alter table audiences add foreign key (site) references sites;
alter table markers add foreign key (site) references sites;
alter table popups add foreign key (site) references sites;
alter table offers add foreign key (site) references sites;
alter table redirects add foreign key (site) references sites;

-- Every change of the draft as a value that can be taken back; the audit trail.
create table edits (
  site text not null references sites,
  number bigint generated always as identity,
  at timestamptz not null default now(),
  session text not null,
  says text not null,
  edits jsonb not null,
  undone boolean not null default false,
  primary key (site, number)
);

create table lenses (
  site text not null references sites,
  id text not null,
  position integer not null,
  name text not null,
  visit jsonb not null,
  primary key (site, id)
);

-- A release is an immutable ruleset; the newest row of went_live says which one is served.
create table releases (
  site text not null references sites,
  number integer not null,
  made_at timestamptz not null default now(),
  session text not null,
  note text not null,
  ruleset jsonb not null,
  sha256 text not null,
  draft_version bigint not null,
  primary key (site, number)
);
create table went_live (
  site text not null,
  number bigint generated always as identity,
  release integer not null,
  at timestamptz not null default now(),
  primary key (site, number),
  foreign key (site, release) references releases (site, number)
);
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'a release never changes';
end $$;
create trigger releases_stay before update or delete on releases for each row execute function refuse_change();

-- Lets a lens see the site for a short while; bound to the session that asked for it.
create table preview_passes (
  id text primary key,
  site text not null references sites,
  session text not null,
  look jsonb not null,
  expires_at timestamptz not null
);
