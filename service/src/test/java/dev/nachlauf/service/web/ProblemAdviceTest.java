package dev.nachlauf.service.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import org.hibernate.TransactionException;
import org.junit.jupiter.api.Test;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.orm.jpa.JpaSystemException;

/** What callers are told of failures that nobody foresaw. */
class ProblemAdviceTest {
    private final ProblemAdvice advice = new ProblemAdvice();

    private static JpaSystemException failure(SQLException cause) {
        return new JpaSystemException(new TransactionException("Unable to rollback against JDBC Connection", cause));
    }

    private static String told(ResponseEntity<ProblemDetail> answer) {
        return answer.getStatusCode().value() + " " + answer.getBody().getDetail();
    }

    @Test
    void aConnectionThatBreaksInMidTransactionIsADatabaseThatIsAway() {
        String away = "503 The service can't reach its own database.";
        assertThat(told(advice.other(failure(new SQLException("Connection is closed")))))
                .isEqualTo(away);
        assertThat(told(advice.other(failure(new SQLException("I/O error", "08006")))))
                .isEqualTo(away);
        assertThat(told(advice.other(failure(new SQLException("shutting down", "57P01")))))
                .isEqualTo(away);
    }

    @Test
    void whatElseFailsIsADefect() {
        String defect = "500 Something unexpected happened in the service.";
        assertThat(told(advice.other(failure(new SQLException("division by zero", "22012")))))
                .isEqualTo(defect);
        assertThat(told(advice.other(new IllegalStateException(new SQLException("Connection is closed")))))
                .isEqualTo(defect);
    }
}
