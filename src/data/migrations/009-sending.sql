-- Campaign links that a site keeps.
create table links (
  site text not null references sites,
  id text not null,
  position integer not null,
  name text not null,
  path text not null,
  tags jsonb not null,
  part text not null,
  note text not null,
  used_by text not null,
  primary key (site, id)
);

-- The secret part of the address of a site's calendar: calendar programs cannot sign in.
alter table site_delivery add column calendar_key text;
create unique index site_delivery_by_calendar on site_delivery (site, calendar_key);
