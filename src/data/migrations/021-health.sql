-- What runs, and what failed: shown under Health, and told by /ready of each process of the others.
create table processes (
  kind text not null check (kind in ('application', 'delivery', 'mirror')),
  machine text not null,
  port integer not null,
  started timestamptz not null,
  seen timestamptz not null,
  ready boolean not null,
  waiting bigint not null,               -- events that wait to be written
  refused bigint not null,               -- since it was started: events that there was no room for
  dropped bigint not null,               -- and that could never be written
  primary key (kind, machine, port)
);
create table failures (
  site text not null,                    -- empty: of no site alone
  what text not null,
  error text not null,
  first timestamptz not null,
  last timestamptz not null,
  count bigint not null,
  primary key (site, what, error)
);
alter table failures enable row level security;
alter table failures force row level security;
create policy one_site on failures using (site = '' or one_site(site));
