package pantry.desktop.reach;

/** What is planned. */
public enum Goal {
    READY("To the ready versions"),
    FOLLOW("Let them follow"),
    PIN("Pin what they show"),
    RELINK("Relink what is missing"),
    STRAYS("Place copies of assets"),
    LEFTOVERS("Clear what nothing needs"),
    SWAP("Swap it for another asset"),
    RIPPLE("What if the newest were ready?"),
    RETIRED("What if the ready one were retired?"),
    REMOVED("What if it were not there?"),
    HAND_OVER("Hand over with all they use"),
    MERGE("Merge assets that are one"),
    CHECK("Check what is used"),
    ARCHIVE("Archive what nobody uses");

    private final String words;

    Goal(String words) {
        this.words = words;
    }

    /** For a person. */
    public String words() {
        return words;
    }
}
