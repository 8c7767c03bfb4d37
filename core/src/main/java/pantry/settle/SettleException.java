package pantry.settle;

import pantry.base.PantryException;

/** Bodies cannot come to rest as asked. */
public final class SettleException extends PantryException {
    private static final long serialVersionUID = 1L;

    public SettleException(String message) {
        super(message);
    }
}
