-- Units that came back, and levels that were found wrong without a count.
alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'ADJUST', 'RETURN', 'PICK', 'PUT_BACK', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED',
                      'ASSEMBLE', 'BREAK', 'SUPPLIER_SAID', 'QUARANTINE', 'TRANSFER_OUT', 'TRANSFER_IN', 'MOVE'));
