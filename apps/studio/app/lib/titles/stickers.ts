/** Emoji offered as stickers, each with a name to find it by. */
export const STICKERS: { name: string; emoji: [string, string][] }[] = [
  {
    name: 'Evening and water',
    emoji: [
      ['🏮', 'Lantern'], ['🌊', 'Wave'], ['⚓', 'Anchor'], ['⛵', 'Sail'], ['🛶', 'Canoe'], ['🌅', 'Sunrise'], ['🌇', 'Sunset'], ['🌙', 'Moon'],
      ['⭐', 'Star'], ['✨', 'Sparkles'], ['🌟', 'Bright star'], ['🌌', 'Night sky'], ['🕯️', 'Candle'], ['🔥', 'Fire'], ['💧', 'Drop'], ['🐟', 'Fish'],
      ['🦀', 'Crab'], ['🐚', 'Shell'], ['🌧️', 'Rain'], ['❄️', 'Snow'],
    ],
  },
  {
    name: 'Faces and hands',
    emoji: [
      ['😀', 'Smile'], ['😂', 'Laughing'], ['😍', 'In love'], ['😎', 'Cool'], ['🤔', 'Thinking'], ['😮', 'Surprised'], ['😴', 'Asleep'], ['🥳', 'Party'],
      ['😢', 'Sad'], ['😡', 'Angry'], ['👍', 'Good'], ['👎', 'Not good'], ['👏', 'Clapping'], ['🙌', 'Hands up'], ['👋', 'Waving'], ['👉', 'That way'],
      ['👇', 'Down there'], ['✌️', 'Two fingers'], ['💪', 'Strong'], ['🙏', 'Please'],
    ],
  },
  {
    name: 'Signs',
    emoji: [
      ['❤️', 'Heart'], ['💛', 'Yellow heart'], ['💥', 'Bang'], ['💯', 'Hundred'], ['✅', 'Done'], ['❌', 'Wrong'], ['❓', 'Question'], ['❗', 'Attention'],
      ['⚠️', 'Warning'], ['💡', 'Idea'], ['🎯', 'Hit'], ['🔔', 'Bell'], ['➡️', 'Right'], ['⬅️', 'Left'], ['⬆️', 'Up'], ['⬇️', 'Down'], ['🔁', 'Again'], ['⏱️', 'Stopwatch'],
    ],
  },
  {
    name: 'Things',
    emoji: [
      ['🎉', 'Confetti'], ['🎈', 'Balloon'], ['🎁', 'Present'], ['🎵', 'Note'], ['🎬', 'Clapper'], ['📷', 'Camera'], ['📍', 'Place'], ['🗺️', 'Map'],
      ['✂️', 'Scissors'], ['📎', 'Clip'], ['✏️', 'Pencil'], ['🧵', 'Thread'], ['🍵', 'Tea'], ['🍰', 'Cake'], ['🏠', 'House'], ['🚲', 'Bicycle'], ['🌱', 'Seedling'], ['🍂', 'Leaves'],
    ],
  },
] // prettier-ignore
