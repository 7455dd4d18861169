package dev.nachlauf.service.web;

import dev.nachlauf.core.problem.ProblemCode;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Objects;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Bounds what is held in memory of a request: documents and JSON are read whole, so they may be so long only. Files are
 * streamed to the store and have no bound but its room.
 */
@Component
class RequestBounds extends OncePerRequestFilter {
    /** Of a document: a job, a connection, a crosswalk. */
    static final long DOCUMENT = 2_000_000;
    /** Of JSON, which can carry a pasted sample. */
    static final long JSON = 25_000_000;

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        String type = Objects.requireNonNullElse(request.getContentType(), "");
        if (type.startsWith("application/octet-stream")) {
            chain.doFilter(request, response);
            return;
        }
        long most = type.contains("json") ? JSON : DOCUMENT;
        if (request.getContentLengthLong() > most) {
            refuse(response, new TooLarge(most));
        } else {
            chain.doFilter(new Bounded(request, most), response);
        }
    }

    private static void refuse(HttpServletResponse response, TooLarge why) throws IOException {
        response.setStatus(HttpServletResponse.SC_REQUEST_ENTITY_TOO_LARGE);
        response.setContentType("application/problem+json");
        response.setCharacterEncoding(StandardCharsets.UTF_8.name());
        response.getWriter()
                .write("{\"status\":413,\"title\":\"request malformed\",\"code\":\""
                        + ProblemCode.REQUEST_MALFORMED.id()
                        + "\",\"detail\":\"" + why.sentence() + " Upload large contents as a file.\"}");
    }

    /** More was sent than is taken. */
    static final class TooLarge extends RuntimeException {
        private static final long serialVersionUID = 1L;

        private final long most;

        TooLarge(long most) {
            super("the request is too large", null, false, false);
            this.most = most;
        }

        String sentence() {
            return "The request holds more than " + most / 1_000_000 + " MB.";
        }
    }

    private static final class Bounded extends HttpServletRequestWrapper {
        private final long most;

        Bounded(HttpServletRequest request, long most) {
            super(request);
            this.most = most;
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            return new Counted(super.getInputStream(), most);
        }

        @Override
        public BufferedReader getReader() throws IOException {
            String encoding = Objects.requireNonNullElse(getCharacterEncoding(), StandardCharsets.UTF_8.name());
            return new BufferedReader(new InputStreamReader(getInputStream(), encoding));
        }
    }

    private static final class Counted extends ServletInputStream {
        private final ServletInputStream in;
        private final long most;
        private long left;

        Counted(ServletInputStream in, long most) {
            this.in = in;
            this.most = most;
            this.left = most;
        }

        @Override
        public int read() throws IOException {
            int value = in.read();
            count(value < 0 ? 0 : 1);
            return value;
        }

        @Override
        public int read(byte[] bytes, int from, int length) throws IOException {
            int read = in.read(bytes, from, length);
            count(Math.max(0, read));
            return read;
        }

        private void count(int read) {
            left -= read;
            if (left < 0) {
                throw new TooLarge(most);
            }
        }

        @Override
        public boolean isFinished() {
            return in.isFinished();
        }

        @Override
        public boolean isReady() {
            return in.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            in.setReadListener(listener);
        }
    }
}
