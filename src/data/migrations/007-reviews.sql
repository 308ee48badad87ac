-- What was asked to go live: the ruleset as it stood then, so that what was seen is what goes live.
create table reviews (
  site text not null references sites,
  number integer not null,
  asked_at timestamptz not null default now(),
  asked_by text not null,
  note text not null,
  ruleset jsonb not null,
  sha256 text not null,
  draft_version bigint not null,
  based_on integer,                     -- the release that was live when it was asked for
  report jsonb not null,                -- what checks and analysis said
  override text not null default '',    -- why it is asked for although something failed
  state text not null default 'open' check (state in ('open', 'approved', 'sent back', 'withdrawn', 'live', 'outdated')),
  decided_by text,
  decided_at timestamptz,
  live_at timestamptz,                  -- approved, and to go live at this time
  release integer,
  primary key (site, number)
);
create index reviews_due on reviews (site, live_at) where state = 'approved';

create table review_comments (
  site text not null,
  review integer not null,
  number bigint generated always as identity,
  at timestamptz not null default now(),
  person text not null,
  change text not null,                 -- the change it is about; empty: the whole
  says text not null,
  primary key (site, review, number),
  foreign key (site, review) references reviews (site, number)
);

-- What is paused on the live site, whatever the release says.
create table pauses (
  site text not null references sites,
  kind text not null check (kind in ('variant', 'popup', 'redirect')),
  id text not null,
  at timestamptz not null default now(),
  person text not null,
  reason text not null,
  primary key (site, kind, id)
);
alter table went_live add column person text not null default '';
alter table went_live add column why text not null default '';
