package rafter.app.house.access;

import java.util.List;
import org.springframework.security.core.GrantedAuthority;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.userdetails.UserDetails;
import rafter.core.id.PersonId;

/**
 * Who is signed in, as the session keeps it: only the id and the address, so that a change of role holds at once.
 *
 * @param id of the person; a plain number, for sessions outlive a release and are read by the next one
 * @param address the address they signed in with
 * @param passwordHash checked at sign-in and wiped from the session
 */
public record SignedIn(long id, String address, String passwordHash) implements UserDetails {

    /** Who it is. */
    public PersonId person() {
        return new PersonId(id);
    }

    @Override
    public List<GrantedAuthority> getAuthorities() {
        return List.of(new SimpleGrantedAuthority("PERSON"));
    }

    @Override
    public String getPassword() {
        return passwordHash;
    }

    /** By the person and not by their address, which may change. */
    @Override
    public String getUsername() {
        return Sessions.principal(person());
    }
}
