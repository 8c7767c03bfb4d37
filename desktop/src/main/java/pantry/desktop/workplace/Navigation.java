package pantry.desktop.workplace;

/** The way from one workplace to another. */
public interface Navigation {
    /** Shows a workplace. */
    void go(Workplace workplace);

    /**
     * Shows the workplace that a request is for, which fulfils it.
     *
     * @throws IllegalStateException where no workplace accepts it
     */
    void send(Request request);
}
