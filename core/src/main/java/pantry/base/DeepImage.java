package pantry.base;

/**
 * An image whose numbers have more than eight bits.
 *
 * @param values row by row from the top, the bands of each pixel together; as they are stored, whole numbers from 0 to 1
 * @param bands one for greys, two with how clear they are, three for colours, four with how clear these are
 * @param linear whether they are numbers of light, and not display colours or mere numbers
 */
public record DeepImage(float[] values, int width, int height, int bands, boolean linear) {
    /** @param channel red, green, blue or how clear it is, by its number */
    public float component(int x, int y, int channel) {
        int pixel = (y * width + x) * bands;
        if (channel == 3) {
            return bands % 2 == 0 ? values[pixel + bands - 1] : 1;
        }
        return values[pixel + (bands < 3 ? 0 : channel)];
    }
}
