package rafter.app.tickets.wording;

/** What writes by templates that are named. */
public interface TemplateUse {

    /** Whether it writes by this one. */
    boolean uses(long template);
}
