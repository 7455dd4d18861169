package dev.nachlauf.service.access;

import jakarta.servlet.DispatcherType;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpMethod;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.annotation.web.configurers.AbstractHttpConfigurer;
import org.springframework.security.config.annotation.web.configurers.HeadersConfigurer.FrameOptionsConfig;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.access.intercept.AuthorizationFilter;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import org.springframework.web.servlet.HandlerExceptionResolver;
import org.springframework.web.servlet.config.annotation.InterceptorRegistry;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** Every call of the interface needs a token; the console's own files, the interface's description and health don't. */
@Configuration
class AccessConfiguration implements WebMvcConfigurer {
    private final RoleGuard roles;

    AccessConfiguration(RoleGuard roles) {
        this.roles = roles;
    }

    @Override
    public void addInterceptors(InterceptorRegistry registry) {
        registry.addInterceptor(roles).addPathPatterns("/api/**");
    }

    @Bean
    SecurityFilterChain access(
            HttpSecurity http,
            Tokens tokens,
            SessionCookie cookie,
            @Qualifier("handlerExceptionResolver") HandlerExceptionResolver problems) {
        return http
                // a page of another site can't make a browser send the session, and its origin is refused as well
                .csrf(AbstractHttpConfigurer::disable)
                .requestCache(AbstractHttpConfigurer::disable)
                .logout(AbstractHttpConfigurer::disable)
                .sessionManagement(sessions -> sessions.sessionCreationPolicy(SessionCreationPolicy.STATELESS))
                .addFilterBefore(new CallerFilter(tokens, cookie, problems), AuthorizationFilter.class)
                .authorizeHttpRequests(calls -> calls
                        // what goes on with an answered request was allowed when it came
                        .dispatcherTypeMatchers(DispatcherType.ASYNC, DispatcherType.ERROR, DispatcherType.FORWARD)
                        .permitAll()
                        .requestMatchers(HttpMethod.POST, "/api/v1/session")
                        .permitAll()
                        .requestMatchers(HttpMethod.GET, "/api/v1/openapi", "/api/v1/openapi/**", "/api/v1/jobs/schema")
                        .permitAll()
                        .requestMatchers("/actuator/health", "/actuator/health/**")
                        .permitAll()
                        .requestMatchers("/api/**", "/actuator/**")
                        .authenticated()
                        .anyRequest()
                        .permitAll())
                .exceptionHandling(handling -> handling.authenticationEntryPoint((request, response, e) -> {
                    response.setHeader("WWW-Authenticate", "Bearer");
                    problems.resolveException(request, response, null, CallerFilter.notSignedIn());
                }))
                .headers(headers -> headers.frameOptions(FrameOptionsConfig::deny)
                        .referrerPolicy(policy -> policy.policy(ReferrerPolicy.NO_REFERRER)))
                .build();
    }
}
