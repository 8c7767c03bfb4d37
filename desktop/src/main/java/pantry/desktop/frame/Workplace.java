package pantry.desktop.frame;

/** The workplaces in the order of the work. */
public enum Workplace {
    RECEIVE("Receive", "remixal-inbox-line", "Files come in"),
    SHELVES("Shelves", "remixal-archive-drawer-line", "Find, look, hand out"),
    PREP("Prep", "remixmz-tools-line", "Inspect and clean"),
    SCENES("Scenes", "remixal-landscape-line", "Compose"),
    REACH("Reach", "remixal-git-branch-line", "Which scene uses what");

    private final String word;
    private final String icon;
    private final String hint;

    Workplace(String word, String icon, String hint) {
        this.word = word;
        this.icon = icon;
        this.hint = hint;
    }

    public String word() {
        return word;
    }

    String icon() {
        return icon;
    }

    String hint() {
        return hint;
    }
}
