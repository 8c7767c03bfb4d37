package pantry.desktop.controls;

/** Style classes of {@code pantry.css}. */
public final class Styles {
    public static final String COUNTER = "counter";
    public static final String RAIL = "rail";
    public static final String RAIL_BUTTON = "rail-button";
    public static final String FOOT = "foot";
    public static final String PANEL = "panel";
    public static final String PANEL_TITLE = "panel-title";
    public static final String SECTION = "section";
    public static final String FAINT = "faint";
    public static final String FIGURE = "figure";
    public static final String UNIT = "unit";
    public static final String TITLE = "title";
    public static final String PRIMARY = "primary";
    public static final String QUIET = "quiet";
    public static final String CAUTION = "caution-text";
    public static final String WRONG = "wrong-text";
    public static final String EDGE = "shelf-edge";
    public static final String TILE = "tile";
    public static final String TAG = "tag";
    public static final String CHOICE = "choice";
    public static final String EMPTY = "empty";

    private Styles() {}
}
