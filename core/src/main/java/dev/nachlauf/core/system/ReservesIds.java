package dev.nachlauf.core.system;

import java.util.List;

/** A target that can give ids to records before they are written. */
public interface ReservesIds {
    /** As many new ids; empty where this record type has none to reserve. */
    List<Object> reserve(int count);
}
