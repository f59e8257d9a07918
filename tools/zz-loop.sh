for i in 1 2 3 4 5 6; do MERRY_SHADOW_ADDRESS=http://127.0.0.1:4999 npx playwright test clip -g "tags and notes" --timeout 90000 2>&1 | grep -E "✓|✘|Received|passed|failed"; done
