package rafter.core.text;

/** Who is behind a mail: a person, or one of several kinds of machine. */
public enum MailKind {
    /** Written by a person for us. */
    PERSON,
    /** An automatic answer to a mail, such as an absence notice. */
    AUTO_REPLY,
    /** A report that a mail could not be delivered. */
    BOUNCE,
    /** Written by a machine on its own account. */
    AUTO_GENERATED,
    /** Sent to a list. */
    LIST;

    /** Whether a machine wrote it: it gets no automatic answer and changes no turn. */
    public boolean automatic() {
        return this != PERSON;
    }
}
