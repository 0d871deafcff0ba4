package rafter.core.json;

/**
 * Something that a newer version of Rafter wrote. Nothing that it belongs to may be shown or changed by this one, for it would be wrong.
 */
public final class NewerVersion extends RuntimeException {

    private static final long serialVersionUID = 1;

    /**
     * @param did what the newer version did, as in "wrote to ticket 4471"
     */
    public NewerVersion(String did) {
        super("a newer version of Rafter " + did);
    }
}
