-- Saved expectations: this visit gets that.
create table checks (
  site text not null references sites,
  id text not null,
  position integer not null,
  body jsonb not null,
  primary key (site, id)
);
