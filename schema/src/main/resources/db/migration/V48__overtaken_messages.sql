-- What was refused and came again, and well, waits for nobody.
alter table refused_message
  modify state varchar(9) not null
    check (state in ('REFUSED', 'CORRECTED', 'DISCARDED', 'OVERTAKEN'));
