package pantry.desktop.reach;

/** What is planned. */
public enum Goal {
    READY("To the ready versions"),
    FOLLOW("Let them follow"),
    PIN("Pin what they show"),
    RELINK("Relink what is missing"),
    STRAYS("Place copies of assets"),
    RIPPLE("What if the newest were ready?"),
    HAND_OVER("Hand over with all they use");

    private final String words;

    Goal(String words) {
        this.words = words;
    }

    /** For a person. */
    public String words() {
        return words;
    }
}
