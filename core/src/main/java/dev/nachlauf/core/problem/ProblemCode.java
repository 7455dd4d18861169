package dev.nachlauf.core.problem;

import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * Every kind of finding. The id (the name in kebab-case) is part of the public interface: scripts rely on it, so a code
 * is never renamed or reused.
 */
public enum ProblemCode {
    // a document that somebody wrote
    YAML_MALFORMED,
    YAML_TRAP,
    KEY_UNKNOWN,
    KEY_MISSING,
    VALUE_WRONG_KIND,
    NAME_MALFORMED,
    NAME_TAKEN,
    FORMAT_UNKNOWN,
    FORMULA_SYNTAX,
    FORMULA_TOO_LARGE,
    FIELD_UNKNOWN,
    FIELD_AMBIGUOUS,
    FUNCTION_UNKNOWN,
    PARAMETER_UNKNOWN,
    PARAMETER_MISSING,
    TYPE_MISMATCH,
    ARGUMENT_COUNT,
    // what a job asks of a system
    PIECE_UNKNOWN,
    GROUP_UNKNOWN,
    STEP_ORDER,
    CROSSWALK_UNKNOWN,
    EXAMPLE_FAILED,
    CONNECTION_UNKNOWN,
    CONNECTION_UNFIT,
    ENVIRONMENT_UNCHOSEN,
    ENVIRONMENT_VALUE_MISSING,
    RECORDS_UNKNOWN,
    RECORDS_READ_ONLY,
    TARGET_FIELD_UNKNOWN,
    TARGET_FIELD_READ_ONLY,
    TARGET_FIELD_FIXED(Weight.WARNING),
    TARGET_FIELD_REQUIRED,
    KEY_NOT_MAPPED,
    MAP_UNFIT,
    OUTPUT_UNFIT,
    REPLACE_UNFIT,
    KEY_NOT_UNIQUE(Weight.WARNING),
    KEY_SENSITIVE(Weight.WARNING),
    MARK_UNKNOWN(Weight.WARNING),
    VERSION_OVERTAKEN,
    SOURCE_UNSEEN(Weight.WARNING),
    ROWS_WOULD_FAIL(Weight.WARNING),
    COLUMN_LOST(Weight.WARNING),
    COLUMN_NEW(Weight.WARNING),
    TARGET_CHANGED,
    TARGET_RESTORED,
    // systems and settings
    SETTING_UNKNOWN,
    SETTING_MISSING,
    SETTING_MALFORMED,
    SECRET_MISSING,
    SECRET_UNSAFE,
    SECRET_BOUND,
    UNREACHABLE,
    DISK_FULL,
    SIGN_IN_REFUSED,
    TLS_REFUSED,
    HOST_UNKNOWN,
    OUT_OF_REACH,
    NOT_PERMITTED,
    ACCOUNT_ALMIGHTY(Weight.WARNING),
    QUERY_REFUSED,
    MESSAGE_REFUSED,
    RECEIVER_UNFIT,
    // reading a source
    FILE_MISSING,
    FILE_THERE,
    FILE_EMPTY,
    FILE_HEADER,
    FILE_ENCODING,
    FILE_MALFORMED,
    FILE_UNFINISHED,
    FILE_TOO_LARGE,
    FILE_DIFFERS,
    FILE_LOADED_BEFORE(Weight.WARNING),
    SOURCE_AMBIGUOUS,
    ROW_RAGGED,
    CELL_ERROR,
    ROW_TOO_LARGE,
    BATCH_TOO_LARGE,
    // a row on its way
    VALUE_MALFORMED,
    DIVISION_BY_ZERO,
    OUT_OF_RANGE,
    RULE_FAILED,
    RULE_WARNED(Weight.WARNING),
    WHOLE_LOAD_FAILED,
    WHOLE_LOAD_WARNED(Weight.WARNING),
    NO_TRANSLATION,
    LOOKUP_NONE,
    LOOKUP_SEVERAL,
    LOOKUP_FILE,
    GROUP_REJECTED,
    GROUP_TOO_LARGE,
    DUPLICATE,
    PARENTS_CIRCULAR,
    PARENTS_TOO_DEEP,
    REQUIRED_EMPTY,
    TOO_LONG,
    TOO_MANY_DECIMALS,
    CHARACTER_NOT_ALLOWED,
    VALUE_NOT_ALLOWED,
    KEY_EMPTY,
    KEY_REPEATED,
    KEY_AMBIGUOUS,
    ALREADY_THERE,
    OUT_OF_SCOPE,
    // the target's answer
    REFERENCE_MISSING,
    STILL_REFERRED_TO,
    CHECK_FAILED,
    NOT_UNIQUE,
    REFUSED_BY_TARGET,
    CHANGED_MEANWHILE,
    CHANGED_SINCE_REVIEW,
    CHANGED_SINCE_WRITTEN,
    NOT_WRITTEN,
    CHANGED_BY_TARGET(Weight.WARNING),
    OUTCOME_UNKNOWN,
    HALF_WRITTEN,
    // the run as a whole
    HELD_FOR_REVIEW,
    HOLD_UNFIT,
    FIRST_ROWS_WRITTEN,
    LIMIT_CROSSED,
    LIMIT_FORESEEN(Weight.WARNING),
    NEAR_DUPLICATE(Weight.WARNING),
    UNLIKE_LAST_TIME(Weight.WARNING),
    GUARD_HELD,
    TOTAL_ACCEPTED(Weight.WARNING),
    TOTAL_DIFFERS,
    SENSITIVE_CHANGE,
    TOO_MANY_REJECTS,
    REMOVAL_UNSURE,
    SOURCE_EMPTY,
    SOURCE_READS_OTHERWISE,
    REJECT_STATE,
    SHEET_UNFIT,
    BALANCE_BROKEN,
    INTERNAL,
    // the service
    MORE_PROBLEMS(Weight.WARNING),
    NOT_FOUND,
    JOB_DRAFT,
    JOB_NOT_PROMOTED,
    ENVIRONMENT_BUSY,
    RUN_BLOCKED,
    RUN_STATE,
    SECOND_PERSON,
    TOO_BUSY,
    LINES_REMOVED,
    LOOK_ENDED,
    REQUEST_MALFORMED,
    REQUEST_FOREIGN,
    NOT_SIGNED_IN,
    ROLE_LACKING,
    TOKEN_LAST;

    private static final Map<String, ProblemCode> BY_ID =
            Arrays.stream(values()).collect(Collectors.toUnmodifiableMap(ProblemCode::id, code -> code));

    private enum Weight {
        ERROR,
        WARNING
    }

    private final Weight weight;
    private final String id = name().toLowerCase(Locale.ROOT).replace('_', '-');

    ProblemCode() {
        this(Weight.ERROR);
    }

    ProblemCode(Weight weight) {
        this.weight = weight;
    }

    /** The code as it is written everywhere outside: kebab-case. */
    public String id() {
        return id;
    }

    /** Whether what it tells of passes by itself or when somebody makes room, so that trying again can help. */
    public boolean passes() {
        return this == UNREACHABLE || this == DISK_FULL;
    }

    /** A warning stands beside an outcome and changes no count and no exit status. */
    public boolean isWarning() {
        return weight == Weight.WARNING;
    }

    /** The code with this id. */
    public static ProblemCode of(String id) {
        ProblemCode code = BY_ID.get(id);
        if (code == null) {
            throw new IllegalArgumentException("no problem code " + id);
        }
        return code;
    }
}
