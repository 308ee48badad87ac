-- Results ask for the days of a slot, and for one kind of group of its visitors: what is asked for together lies together.
alter table event_days drop constraint event_days_pkey,
  add primary key (site, slot, of, day, key, kind, variant, arm, name);
