package dev.nachlauf.service.web;

import dev.nachlauf.api.ProblemView;
import dev.nachlauf.core.problem.CannotGoOn;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import java.sql.SQLException;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.transaction.TransactionException;
import org.springframework.web.ErrorResponse;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import tools.jackson.databind.exc.UnrecognizedPropertyException;

/** Findings to RFC 9457 problem details: the first finding in the members of the standard, all of them beside it. */
@RestControllerAdvice
class ProblemAdvice {
    private static final Logger LOG = LoggerFactory.getLogger(ProblemAdvice.class);
    /** Classes of SQLSTATE: the connection is broken, or the server is being shut down. */
    private static final List<String> GONE = List.of("08", "57P");

    @ExceptionHandler
    ResponseEntity<ProblemDetail> cannotGoOn(CannotGoOn e) {
        return answer(status(e.problems().getFirst().code()), ProblemViews.of(e.problems()));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> tooLarge(RequestBounds.TooLarge e) {
        return answer(
                HttpStatus.CONTENT_TOO_LARGE,
                List.of(ProblemViews.of(
                        Problem.of(ProblemCode.REQUEST_MALFORMED, e.sentence(), "Upload large contents as a file."))));
    }

    @ExceptionHandler({HttpMessageNotReadableException.class, TypeMismatchException.class})
    ResponseEntity<ProblemDetail> unreadable(Exception e) {
        return answer(
                HttpStatus.BAD_REQUEST,
                List.of(ProblemViews.of(Problem.of(
                        ProblemCode.REQUEST_MALFORMED,
                        e.getCause() instanceof UnrecognizedPropertyException unknown
                                ? "The request holds " + unknown.getPropertyName()
                                        + ", which this address doesn't know."
                                : "The request can't be read: its body or a part of its address is not what is expected.",
                        "The document at /api/v1/openapi says what it holds."))));
    }

    @ExceptionHandler({CannotCreateTransactionException.class, DataAccessResourceFailureException.class})
    ResponseEntity<ProblemDetail> databaseGone(RuntimeException e) {
        LOG.warn("the service's database can't be reached");
        return answer(
                HttpStatus.SERVICE_UNAVAILABLE,
                List.of(ProblemViews.of(Problem.of(
                        ProblemCode.UNREACHABLE,
                        "The service can't reach its own database.",
                        "It tries again with every request; nothing is lost."))));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> other(Exception e) {
        if (e instanceof ErrorResponse known) {
            return answer(
                    known.getStatusCode(),
                    List.of(ProblemViews.of(Problem.of(
                            known.getStatusCode().value() == 404
                                    ? ProblemCode.NOT_FOUND
                                    : ProblemCode.REQUEST_MALFORMED,
                            known.getStatusCode().value() == 404
                                    ? "There is nothing at this address."
                                    : "The request is not one that this address takes.",
                            "The document at /api/v1/openapi says what there is."))));
        }
        if (isDatabaseGone(e)) {
            return databaseGone((RuntimeException) e);
        }
        LOG.error("unexpected: {}", e.getClass().getName(), e);
        return answer(
                HttpStatus.INTERNAL_SERVER_ERROR,
                List.of(ProblemViews.of(Problem.of(
                        ProblemCode.INTERNAL,
                        "Something unexpected happened in the service.",
                        "The service's log says more."))));
    }

    /** A connection that breaks in mid-transaction is told by whatever was done last, often the attempt to roll back. */
    private static boolean isDatabaseGone(Exception e) {
        if (!(e instanceof DataAccessException || e instanceof TransactionException)) {
            return false;
        }
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException failure) {
                String state = failure.getSQLState();
                return state == null || GONE.stream().anyMatch(state::startsWith);
            }
        }
        return false;
    }

    private static HttpStatus status(ProblemCode code) {
        return switch (code) {
            case NOT_FOUND -> HttpStatus.NOT_FOUND;
            case RUN_BLOCKED, RUN_STATE, JOB_DRAFT, JOB_NOT_PROMOTED, ENVIRONMENT_BUSY, TOKEN_LAST, VERSION_OVERTAKEN ->
                HttpStatus.CONFLICT;
            case NOT_SIGNED_IN -> HttpStatus.UNAUTHORIZED;
            case ROLE_LACKING, REQUEST_FOREIGN -> HttpStatus.FORBIDDEN;
            case REQUEST_MALFORMED -> HttpStatus.BAD_REQUEST;
            case UNREACHABLE -> HttpStatus.BAD_GATEWAY;
            case DISK_FULL -> HttpStatus.INSUFFICIENT_STORAGE;
            case TOO_BUSY -> HttpStatus.SERVICE_UNAVAILABLE;
            case LINES_REMOVED -> HttpStatus.GONE;
            default -> HttpStatus.UNPROCESSABLE_CONTENT;
        };
    }

    private static ResponseEntity<ProblemDetail> answer(HttpStatusCode status, List<ProblemView> problems) {
        ProblemView first = problems.getFirst();
        ProblemDetail detail = ProblemDetail.forStatusAndDetail(status, first.sentence());
        detail.setTitle(first.code().replace('-', ' '));
        detail.setProperty("code", first.code());
        if (first.line() != null) {
            detail.setProperty("line", first.line());
        }
        if (first.column() != null) {
            detail.setProperty("column", first.column());
        }
        detail.setProperty("problems", problems);
        return ResponseEntity.status(status)
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(detail);
    }
}
