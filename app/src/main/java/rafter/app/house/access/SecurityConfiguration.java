package rafter.app.house.access;

import jakarta.servlet.DispatcherType;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.AuthenticationProvider;
import org.springframework.security.authentication.dao.DaoAuthenticationProvider;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.factory.PasswordEncoderFactories;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.HttpStatusEntryPoint;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy;
import rafter.app.platform.Assets;

/** Who gets in, and what every answer says about what a browser may do with it. */
@Configuration(proxyBeanMethods = false)
class SecurityConfiguration {

    private static final String NOBODY = "'none'";
    private static final String[] WITHOUT_SIGN_IN = Stream.concat(
                    Stream.of(
                            "/sign-in",
                            "/sign-in/token",
                            "/rate/*",
                            "/request/*",
                            "/room/**",
                            "/panel/**",
                            "/talk/**",
                            "/told/*",
                            "/panel.js",
                            "/icon.svg"),
                    Assets.FOLDERS.stream().map(folder -> folder + "**"))
            .toArray(String[]::new);

    private static final String POLICY =
            "default-src 'none'; script-src 'self'; style-src 'self'; img-src %s; font-src 'self';"
                    + " connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors %s; manifest-src 'self'";

    @Bean
    PasswordEncoder passwordEncoder() {
        return PasswordEncoderFactories.createDelegatingPasswordEncoder();
    }

    @Bean
    UserDetailsService userDetailsService(Persons persons) {
        return address -> persons.signingIn(address)
                .map(person -> new SignedIn(person.id().value(), person.address(), persons.passwordHash(person.id())))
                .orElseThrow(() -> new UsernameNotFoundException("nobody of this address"));
    }

    @Bean
    AuthenticationProvider signIn(UserDetailsService people, PasswordEncoder passwords, SignInTries tries) {
        var byPassword = new DaoAuthenticationProvider(people);
        byPassword.setPasswordEncoder(passwords);
        return new BoundedSignIn(byPassword, tries);
    }

    @Bean
    SecurityFilterChain chain(
            HttpSecurity http,
            SignInAttempts attempts,
            AuthenticationProvider signIn,
            Sessions sessions,
            List<FramedPages> framed)
            throws Exception {
        http.authenticationProvider(signIn);
        // Whoever rates, or is asked into a room from outside, has nothing but a link, which nobody can guess; there is
        // no session that could be misused.
        http.csrf(csrf -> csrf.csrfTokenRepository(tokens())
                .ignoringRequestMatchers("/rate/*", "/room/**", "/panel/**", "/talk/**", "/told/**"));
        http.authorizeHttpRequests(
                requests -> requests.dispatcherTypeMatchers(DispatcherType.ERROR, DispatcherType.ASYNC)
                        .permitAll()
                        .requestMatchers(WITHOUT_SIGN_IN)
                        .permitAll()
                        .anyRequest()
                        .authenticated());
        http.formLogin(form -> form.loginPage("/sign-in")
                .usernameParameter("address")
                .successHandler(attempts)
                .failureHandler(attempts)
                .permitAll());
        http.logout(out -> out.logoutUrl("/sign-out").addLogoutHandler(sessions).logoutSuccessUrl("/sign-in?out"));
        // A script is told plainly that the session is over, so that the page can keep what was typed.
        http.exceptionHandling(e -> e.defaultAuthenticationEntryPointFor(
                        new HttpStatusEntryPoint(HttpStatus.UNAUTHORIZED), SecurityConfiguration::isFromScript)
                .defaultAuthenticationEntryPointFor(signInPage(), r -> true)
                .accessDeniedHandler(new StaleSession()));
        http.headers(headers -> headers.addHeaderWriter((request, response) -> guard(framed, request, response))
                .frameOptions(frame -> frame.disable())
                .referrerPolicy(r -> r.policy(ReferrerPolicy.NO_REFERRER)));
        http.requestCache(cache -> cache.requestCache(new PageRequestCache()));
        return http.build();
    }

    /** Visitors who do not sign in need no session: the token and the page they wanted are kept in cookies. */
    private static CookieCsrfTokenRepository tokens() {
        var tokens = new CookieCsrfTokenRepository();
        tokens.setCookieName("rafter-token");
        tokens.setHeaderName("X-CSRF-TOKEN");
        tokens.setCookieCustomizer(cookie -> cookie.sameSite("Lax").httpOnly(true));
        return tokens;
    }

    private static void guard(List<FramedPages> framed, HttpServletRequest request, HttpServletResponse response) {
        String holders = held(framed, request);
        response.setHeader("Content-Security-Policy", POLICY.formatted(pictureSources(request), holders));
        if (holders.equals(NOBODY)) {
            response.setHeader("X-Frame-Options", "DENY");
        }
    }

    /** Never by the name that a request claims its host to have. */
    private static LoginUrlAuthenticationEntryPoint signInPage() {
        var page = new LoginUrlAuthenticationEntryPoint("/sign-in");
        page.setFavorRelativeUris(true);
        return page;
    }

    static boolean isFromScript(HttpServletRequest request) {
        return request.getHeader("HX-Request") != null
                || "fetch".equals(request.getHeader("X-Requested-With"))
                || request.getRequestURI().equals("/live");
    }

    /** Who may hold a page in a frame, as the policy names them. */
    private static String held(List<FramedPages> framed, HttpServletRequest request) {
        List<String> origins =
                framed.stream().flatMap(pages -> pages.heldBy(request).stream()).toList();
        return origins.isEmpty() ? NOBODY : String.join(" ", origins);
    }

    /** Pictures from elsewhere load only on a page that was asked to show those of a message. */
    private static String pictureSources(HttpServletRequest request) {
        boolean asked = request.getParameter("pictures") != null
                && request.getRequestURI().startsWith("/tickets/");
        return asked ? "'self' data: https: http:" : "'self' data:";
    }
}
